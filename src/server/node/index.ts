/** A render node: the live shop out of a release file, without the workbench. */
export { inProcesses, isOneOfSeveral, tellReady } from './processes';
export { type Node, serveRelease } from './serve';
