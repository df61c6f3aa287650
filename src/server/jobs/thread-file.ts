import { inProgram } from './program';

/** Where a thread's code is, and how Node.js is to start it: bundled beside the built workbench, else as it is written. */
export function threadFile(name: string, source: string): { filename: string; execArgv: string[] } {
  if (process.env.NODE_ENV === 'production')
    return { filename: inProgram(`.bundle/${name}.mjs`), execArgv: ['--enable-source-maps'] };
  return { filename: inProgram(source), execArgv: ['--import', 'tsx'] };
}
