import { accessSync, constants, existsSync, readFileSync, statSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { inProgram } from '@/server/jobs';
import { listName, releaseFault, Shop } from '@/server/shop';
import { databaseFile, faultOf, OrderEvents, readDelta } from '@/store';
import { faultsOf } from './health';

/** Something that was checked: what is wrong with it and what to do, or null. */
export interface Finding {
  what: string;
  fault: string | null;
}

export interface Installation {
  /** The data folder. */
  folder: string;
  /** The folder of release files, where one is kept. */
  releases?: string | undefined;
  /** Version of Node.js. */
  node?: string;
  /** Bytes that are free on the disk of a folder. */
  free?: (folder: string) => number;
  /** A file of Last itself. */
  program?: (path: string) => string;
}

/** The oldest Node.js that Last runs on, as package.json says. */
const leastNode = [20, 19] as const;
/** Packages that come as machine code, for this machine and this Node.js alone. */
const native = ['better-sqlite3', 'sharp', '@node-rs/argon2'];

/** Checks all that Last needs to run, one thing after another. Where something is missing, what depends on it is not checked. */
export function diagnose(installation: Installation): Finding[] {
  const { folder, releases, node = process.versions.node, free, program = inProgram } = installation;
  const findings: Finding[] = [];
  const look = (what: string, work: () => string | null): boolean => {
    let fault: string | null;
    try {
      fault = work();
    } catch (error) {
      fault = (error as Error).message;
    }
    findings.push({ what, fault });
    return fault === null;
  };
  look('Node.js', () => {
    const [major = 0, minor = 0] = node.split('.').map(Number);
    return major > leastNode[0] || (major === leastNode[0] && minor >= leastNode[1])
      ? null
      : `Node.js is ${node}: Last needs ${leastNode.join('.')} or newer.`;
  });
  look('Packages', () => {
    const load = createRequire(program('package.json'));
    for (const name of native) {
      try {
        load(name);
      } catch (error) {
        const [why] = (error as Error).message.split('\n');
        return `${name} does not load (${why}): run npm ci in ${program('')}.`;
      }
    }
    return null;
  });
  look('Program', () =>
    ['.next/BUILD_ID', '.bundle/server.mjs'].every((path) => existsSync(program(path)))
      ? null
      : `Last is not built in ${program('')}: run npm run build there.`,
  );
  const canWrite = look('Data folder', () => {
    if (!existsSync(folder))
      return `There is no data folder ${folder}: give LAST_DATA the right one, or start Last to make it.`;
    if (!statSync(folder).isDirectory()) return `${folder} is not a folder: give LAST_DATA another.`;
    try {
      accessSync(folder, constants.W_OK | constants.X_OK);
    } catch {
      return `The data folder ${folder} cannot be written to by this account: change its rights.`;
    }
    return existsSync(databaseFile(folder))
      ? null
      : `${folder} has no shop yet: start Last, or give LAST_DATA the right folder.`;
  });
  const isWhole =
    canWrite &&
    look('Database', () => {
      const fault = faultOf(databaseFile(folder));
      return (
        fault &&
        `The database of ${folder} cannot be used: ${fault}. Stop Last, and restore a backup: last restore FILE.`
      );
    });
  if (isWhole) {
    const shop = new Shop(folder, { readOnly: true });
    try {
      const found = free ? faultsOf(shop, folder, free) : faultsOf(shop, folder);
      findings.push(...(found.length ? found : [null]).map((fault) => ({ what: 'Shop', fault })));
      look('Orders', () => {
        const stuck = new OrderEvents(shop.sql).stuck();
        return (
          stuck &&
          `${stuck.count === 1 ? 'One message' : `${stuck.count} messages`} about orders could not be sent. ${stuck.said} The next try is at ${stuck.next}.`
        );
      });
    } catch (error) {
      findings.push({ what: 'Shop', fault: (error as Error).message });
    } finally {
      shop.sql.db.close();
    }
  }
  if (releases) look('Release files', () => faultIn(releases));
  return findings;
}

/** What is wrong with a folder of release files; null: what is in force is there, and whole. */
function faultIn(releases: string): string | null {
  const list = join(releases, listName);
  if (!existsSync(list)) return `${releases} has no ${listName}: start Last with LAST_RELEASES=${releases}.`;
  const { files } = JSON.parse(readFileSync(list, 'utf8')) as { files: { name: string; size: number }[] };
  for (const { name, size } of files) {
    const file = join(releases, name);
    const then = 'delete it, and it is written again';
    if (!existsSync(file)) return `${file} is in force, and is not there: start Last, and it is written again.`;
    if (statSync(file).size !== size) return `${file} is not whole: ${then}.`;
    if (name.endsWith('.delta')) readDelta(file);
    else {
      const fault = releaseFault(file, true);
      if (fault) return `${file} cannot be used: ${fault}; ${then}.`;
    }
  }
  return null;
}
