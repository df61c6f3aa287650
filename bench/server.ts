import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import getPort from 'get-port';

/** A data folder with the demo in it, and so many products after the demo's. */
export function seeded(products: number | null): string {
  const folder = mkdtempSync(join(tmpdir(), 'last-bench-'));
  const more = products === null ? [] : ['--products', String(products)];
  const { status, stderr } = spawnSync('npx', ['tsx', 'src/cli/main.ts', 'seed', '--no-work', ...more], {
    env: { ...process.env, LAST_DATA: folder, PORT: '0' },
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(`The demo could not be filled in: ${stderr}`);
  return folder;
}

/** An answer of the shop. */
export interface Visited {
  status: number;
  text: string;
}

/** A server that is measured. */
export interface Served {
  /** Origin of the workbench. */
  at: string;
  /** What the workbench's own pages send with what they ask. */
  headers: Record<string, string>;
  /** Where the shop and drafts listen, whatever their host names. */
  site: string;
  /** Host of a draft; of the shop where none is named. */
  host(draft?: string): string;
  /** Fetches a page of the live shop, or of a draft. */
  visit(path: string, draft?: string): Promise<Visited>;
  pid: number;
  end(): void;
}

/** A server of the built workbench on a folder. */
export async function serve(folder: string, env: Record<string, string> = {}): Promise<Served> {
  if (!existsSync('.next/BUILD_ID')) spawnSync('npm', ['run', 'build'], { stdio: 'ignore' });
  const [port, sitePort] = [await getPort(), await getPort()];
  const child: ChildProcess = spawn('node', ['--enable-source-maps', '.bundle/server.mjs'], {
    env: {
      ...process.env,
      PORT: String(port),
      LAST_SITE_PORT: String(sitePort),
      LAST_DATA: folder,
      NODE_ENV: 'production',
      ...env,
    },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  await new Promise<void>((resolve, reject) => {
    child.stdout?.on('data', (text: Buffer) => text.toString().includes('Last is ready') && resolve());
    child.once('exit', (code) => reject(new Error(`The server ended with ${code}`)));
  });
  const at = `http://${env.LAST_HOST ?? '127.0.0.1'}:${port}`;
  const agent = new Agent({ keepAlive: true });
  const host = (draft = 'shop') => `${draft}.localhost:${sitePort}`;
  return {
    at,
    headers: { Origin: at, 'X-Last-Token': readFileSync(join(folder, 'token'), 'utf8').trim() },
    site: `http://127.0.0.1:${sitePort}`,
    host,
    visit: (path, draft) =>
      new Promise((resolve, reject) => {
        const asked = request({ port: sitePort, path, agent, headers: { Host: host(draft) } }, (answer) => {
          const parts: Buffer[] = [];
          answer.on('data', (part: Buffer) => parts.push(part)).on('error', reject);
          answer.on('end', () => resolve({ status: answer.statusCode ?? 0, text: Buffer.concat(parts).toString() }));
        });
        asked.on('error', reject).end();
      }),
    pid: child.pid ?? 0,
    end: () => {
      agent.destroy();
      child.kill('SIGKILL');
    },
  };
}
