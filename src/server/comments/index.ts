/** What is said of places of a draft, where those places are now, and who else is in the draft. */
export { commentsOf, say, sourceWithoutName } from './comments';
export { commentJobs } from './jobs';
export { Presence } from './presence';
