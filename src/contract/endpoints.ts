import { accountEndpoints } from './accounts';
import { alternateEndpoints } from './alternates';
import { arrangeEndpoints } from './arrange';
import { benchEndpoints } from './bench';
import { catalogueEndpoints } from './catalogue';
import { commentEndpoints } from './comments';
import { descriptionEndpoints } from './description';
import { draftEndpoints } from './drafts';
import type { Endpoint } from './endpoint';
import { feedEndpoints } from './feed';
import { fileEndpoints } from './files';
import { goodsEndpoints } from './goods';
import { recordEndpoints } from './records';
import { historyEndpoints } from './history';
import { layerEndpoints } from './layers';
import { orderEndpoints } from './orders';
import { phraseEndpoints } from './phrases';
import { pictureEndpoints } from './pictures';
import { releaseEndpoints } from './releases';
import { reviewEndpoints } from './reviews';
import { startEndpoints } from './start';
import { statusEndpoints } from './status';

/** Every call of the workbench's server, by its resource. */
export const endpoints = {
  start: startEndpoints,
  accounts: accountEndpoints,
  drafts: draftEndpoints,
  files: fileEndpoints,
  history: historyEndpoints,
  layers: layerEndpoints,
  alternates: alternateEndpoints,
  bench: benchEndpoints,
  arrange: arrangeEndpoints,
  orders: orderEndpoints,
  phrases: phraseEndpoints,
  catalogue: catalogueEndpoints,
  goods: goodsEndpoints,
  feed: feedEndpoints,
  records: recordEndpoints,
  pictures: pictureEndpoints,
  releases: releaseEndpoints,
  reviews: reviewEndpoints,
  comments: commentEndpoints,
  status: statusEndpoints,
  description: descriptionEndpoints,
} satisfies Record<string, Record<string, Endpoint>>;
