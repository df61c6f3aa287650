import { build } from './install.mjs';

/** `npm run build`: builds what changed since the last build. */
build();
