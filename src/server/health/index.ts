/** Whether Last is well: checks in sentences for people, and figures for whoever watches it. */
export { diagnose, type Finding } from './doctor';
export { answerHealth, faultsOf, healthPaths, isHealth } from './health';
export { answersSoFar, counted, metricsOf, tellAnswers } from './metrics';
export { watchListener } from './listener';
