/** A render node: the live shop out of a release file, without the workbench. */
export { type Node, serveRelease } from './serve';
