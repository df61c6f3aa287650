/** What is seen while the data folder is empty. */
export { StartScreen } from './StartScreen';
