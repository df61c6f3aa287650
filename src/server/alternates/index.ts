/** Alternates of a draft: the list, who gets what, why, and edits. */
export { factsOfKind } from './alternates';
export { Covers } from './coverage';
export { type ExplainAnswer, explainAt, type SaidOutcome } from './explain';
export { alternateJobs } from './jobs';
