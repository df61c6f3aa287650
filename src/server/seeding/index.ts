/** What an empty data folder is filled with: the demo, or a new shop. */
export { demo } from './demo';
export { startDemo, startShop } from './new-shop';
export { seed } from './seed';
