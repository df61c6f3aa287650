import { build, checkNode, checkPort, installPackages, run } from './install.mjs';

/** `npm run demo`: installs what is missing, builds, fills an empty data folder with the demo, and starts. */
checkNode();
installPackages();
// The port and the data folder are tried first: a sentence now beats one after a minute of building.
await checkPort();
run('npx', ['tsx', 'src/cli/main.ts', 'seed']);
build();
run('node', ['--enable-source-maps', '.bundle/server.mjs'], { NODE_ENV: 'production' });
