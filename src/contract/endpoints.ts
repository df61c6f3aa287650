import { alternateEndpoints } from './alternates';
import { benchEndpoints } from './bench';
import { catalogueEndpoints } from './catalogue';
import { draftEndpoints } from './drafts';
import type { Endpoint } from './endpoint';
import { fileEndpoints } from './files';
import { historyEndpoints } from './history';
import { layerEndpoints } from './layers';
import { releaseEndpoints } from './releases';

/** Every call of the workbench's server, by its resource. */
export const endpoints = {
  drafts: draftEndpoints,
  files: fileEndpoints,
  history: historyEndpoints,
  layers: layerEndpoints,
  alternates: alternateEndpoints,
  bench: benchEndpoints,
  catalogue: catalogueEndpoints,
  releases: releaseEndpoints,
} satisfies Record<string, Record<string, Endpoint>>;
