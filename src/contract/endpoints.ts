import { alternateEndpoints } from './alternates';
import { arrangeEndpoints } from './arrange';
import { benchEndpoints } from './bench';
import { catalogueEndpoints } from './catalogue';
import { draftEndpoints } from './drafts';
import type { Endpoint } from './endpoint';
import { fileEndpoints } from './files';
import { goodsEndpoints } from './goods';
import { recordEndpoints } from './records';
import { historyEndpoints } from './history';
import { layerEndpoints } from './layers';
import { phraseEndpoints } from './phrases';
import { pictureEndpoints } from './pictures';
import { releaseEndpoints } from './releases';
import { startEndpoints } from './start';

/** Every call of the workbench's server, by its resource. */
export const endpoints = {
  start: startEndpoints,
  drafts: draftEndpoints,
  files: fileEndpoints,
  history: historyEndpoints,
  layers: layerEndpoints,
  alternates: alternateEndpoints,
  bench: benchEndpoints,
  arrange: arrangeEndpoints,
  phrases: phraseEndpoints,
  catalogue: catalogueEndpoints,
  goods: goodsEndpoints,
  records: recordEndpoints,
  pictures: pictureEndpoints,
  releases: releaseEndpoints,
} satisfies Record<string, Record<string, Endpoint>>;
