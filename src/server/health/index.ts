/** Whether Last is well: what is wrong and what to do about it, for people, and figures for monitoring. */
export { diagnose, type Finding } from './doctor';
export { answerHealth, faultsOf, healthPaths, isHealth } from './health';
export { answersSoFar, counted, metricsOf, tellAnswers } from './metrics';
export { watchListener } from './listener';
