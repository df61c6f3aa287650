/** The pool of threads. */
export { giveWay } from './give-way';
export { type Job, type JobAnswer, JobPool, type Lane } from './pool';
export { inProgram } from './program';
export { threadFile } from './thread-file';
