/** What the command line asks, of a data folder or of the server that holds it. */
export { askServer } from './ask';
export { hearCommands } from './hear';
export { type CommandName, type Given, runCommand } from './table';
export { checkCommand, renderCommand } from './theme-commands';
