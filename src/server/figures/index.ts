/** Figures for monitoring, in Prometheus' format. Read where they are wanted: nobody needs them to start. */
export { answersSoFar, metricsOf, tellAnswers } from './metrics';
export { figuresOfAll, tellFigures } from './several';
