/** What threads do: the list of jobs, and long work with its steps. */
export { streamWork, workOnce } from './long-work';
