/** A render node: the live shop out of a release file, without the workbench. */
export { Following } from './follow';
export { frontConfig, fronts, type Front, type FrontSetup } from './front';
export { inProcesses, isOneOfSeveral, tellReady } from './processes';
export { type Node, serveRelease } from './serve';
