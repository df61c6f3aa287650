/** The pool of threads. */
export { beginThread, endThreads } from './begin-thread';
export { giveWay } from './give-way';
export { type Job, type JobAnswer, JobPool, type Lane } from './pool';
export { inProgram } from './program';
