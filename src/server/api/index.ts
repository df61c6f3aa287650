import { accountCalls } from './accounts';
import { alternateCalls } from './alternates';
import { arrangeCalls } from './arrange';
import { benchCalls } from './bench';
import { catalogueCalls } from './catalogue';
import { commentCalls } from './comments';
import { descriptionCalls } from './description';
import { draftCalls } from './drafts';
import { feedCalls } from './feed';
import { fileCalls } from './files';
import { goodsCalls } from './goods';
import { historyCalls } from './history';
import { layerCalls } from './layers';
import { orderCalls } from './orders';
import { phraseCalls } from './phrases';
import { pictureCalls } from './pictures';
import { recordCalls } from './records';
import { releaseCalls } from './releases';
import { reviewCalls } from './reviews';
import { startCalls } from './start';
import { statusCalls } from './status';
import { dispatcher, type Served } from './serve';

/** The calls of the workbench's server, one file a resource as in src/contract: what is asked is there, what is done here. */
export const calls: readonly Served[] = [
  startCalls,
  accountCalls,
  draftCalls,
  fileCalls,
  historyCalls,
  layerCalls,
  alternateCalls,
  benchCalls,
  arrangeCalls,
  catalogueCalls,
  goodsCalls,
  feedCalls,
  recordCalls,
  orderCalls,
  phraseCalls,
  pictureCalls,
  releaseCalls,
  reviewCalls,
  commentCalls,
  statusCalls,
  descriptionCalls,
].flat();

/** Answers a request by the call that it is for. */
export const answerCall = dispatcher(calls);
