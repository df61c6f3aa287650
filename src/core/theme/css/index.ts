/** What is wrong in the styles of a theme: sheets, `style` elements and attributes. */
export { checkDeclaration, checkSheet, checkTemplateStyles, StyleNames } from './check';
