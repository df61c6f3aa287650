/** Arrange: what staff put on a page's shelves, and the forms that fill it in. */
export { Arrange } from './Arrange';
