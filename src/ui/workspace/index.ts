/** What is worked on at the Bench, kept outside React: the file, the page, the place in both, the language, changes. */
export type { ReachRow, Told } from './changes';
export { bothOf, type OpenFile, shelvesFile } from './open-file';
export { recentFiles } from './recent';
export { labelOf, layerName, type SpotState } from './spot';
export { useNow, useSoon, useUnsaved, useWorkspace, WorkspaceContext } from './use';
export { announce, listenToWindows } from './windows';
export { problemsOf } from './problems';
export { Workspace, type Place, type Press } from './workspace';
