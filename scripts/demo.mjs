import { build, checkNode, installPackages, run } from './install.mjs';

/** `npm run demo`: installs what is missing, builds, fills an empty data folder with the demo, and starts. */
checkNode();
installPackages();
// The port and the data folder are tried first: a sentence now beats one after a minute of building.
run('npx', ['tsx', 'src/cli/main.ts', 'seed']);
build();
run('npx', ['tsx', 'src/server/start/start.ts'], { NODE_ENV: 'production' });
