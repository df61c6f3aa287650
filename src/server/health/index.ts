/** Whether Last is well: what is wrong and what to do about it, for people and for programs that watch it. */
export { diagnose, type Finding } from './doctor';
export { answerHealth, faultsOf, healthPaths, isHealth } from './health';
export { counted, type Counting } from './counted';
export { watchListener } from './listener';
