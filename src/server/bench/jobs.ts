import { arrangeAt } from './arrange';
import { changeAt, reachAt, viewPage } from './preview';
import { shopJobs } from '@/server/shop';

/** What threads do for the Bench. */
export const benchJobs = shopJobs('bench', { view: viewPage, reach: reachAt, change: changeAt, arrange: arrangeAt });
