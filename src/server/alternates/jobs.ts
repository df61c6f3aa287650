import { alternatesOf, planAlternate, planEdit, planFile, planRename, planRetirement } from './alternates';
import { explainAt } from './explain';
import { shopJobs } from '@/server/shop';

/** What threads do for alternates; edits are planned there and written by the serving process. */
export const alternateJobs = shopJobs('alternates', {
  all: alternatesOf,
  explain: explainAt,
  planEdit,
  planAlternate,
  planFile,
  planRename,
  planRetirement,
});
