/** What the Bench asks: a page with its report, what is in reach, the smallest change, awkward pages. */
export { benchJobs } from './jobs';
export { plainPath, readAsk, viewOf, viewPage } from './preview';
export { survey, type SurveyAsk, type SurveyStep } from './survey';
