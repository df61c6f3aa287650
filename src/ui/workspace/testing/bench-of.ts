import { vi } from 'vitest';
import type { ToFrame } from '@/contract/frame';
import { answerCall } from '@/server/api';
import { demoShop } from '@/server/testing/demo-shop';
import { call, callForLines } from '@/ui/shared';
import { LanguageService, openDoor, type LanguagePort } from '@/ui/source';
import type { Editor } from '../ports';
import { Workspace, type Place } from '../workspace';
import { stubBrowser } from './browser';

/** An editor without a screen: a text and a caret. */
class PlainEditor implements Editor {
  #text = '';
  #caret = 0;
  version = -1;

  constructor(private readonly workspace: () => Workspace) {}

  /** Shows the open file, as the screen would. */
  follow(): void {
    const { file } = this.workspace().file.now;
    if (!file || file.version === this.version) return;
    this.version = file.version;
    this.#text = file.text;
    this.workspace().spot.shown();
  }

  show(offset: number): void {
    this.#caret = offset;
    this.workspace().caretAt(offset, false);
  }

  showLine(line: number): void {
    this.show(
      this.#text
        .split('\n')
        .slice(0, line - 1)
        .join('\n').length + (line > 1 ? 1 : 0),
    );
  }

  write(text: string): void {
    this.change([{ from: this.#caret, to: this.#caret, text }]);
  }

  change(edits: { from: number; to: number; text: string }[]): void {
    for (const { from, to, text } of [...edits].sort((a, b) => b.from - a.from))
      this.#text = this.#text.slice(0, from) + text + this.#text.slice(to);
    this.workspace().file.type(this.#text);
    this.workspace().caretAt(this.#caret, true);
  }

  explain(): void {}
  nextProblem(): void {}
  fix(): boolean {
    return false;
  }
  focus(): void {}
  caret = () => this.#caret;
  text = () => this.#text;
}

/** The language where a worker would be: the same door, messages copied as between threads. */
export function languageHere(service = new LanguageService()): LanguagePort {
  const port: LanguagePort = { postMessage: () => {}, onmessage: null, terminate: () => {} };
  const take = openDoor(service, (message) =>
    port.onmessage?.({ data: structuredClone(message) } as Parameters<NonNullable<LanguagePort['onmessage']>>[0]),
  );
  port.postMessage = (message) => take(structuredClone(message));
  return port;
}

/** A Bench without a screen: the workspace on the demo shop's draft, with the real server behind it. */
export function benchOf(start: Partial<Place> = {}) {
  const { local } = stubBrowser();
  (globalThis as { lastShop?: unknown }).lastShop = demoShop();
  /** Lets each request wait, or answers it in place of the server. */
  const held: { before: (path: string) => Promise<void> | void } = { before: () => {} };
  const asked: string[] = [];
  let flying = 0;
  vi.stubGlobal('fetch', async (address: string, options: RequestInit) => {
    const url = new URL(address, 'http://localhost');
    asked.push(`${options.method} ${url.pathname.split('/').pop()}`);
    flying++;
    try {
      await held.before(url.pathname);
      return await answerCall(new Request(url, options));
    } finally {
      flying--;
    }
  });
  const said: string[] = [];
  const posts: ToFrame[] = [];
  const announced: string[] = [];
  const place: Place = {
    ...{ origin: 'http://spring.localhost:4171', base: 'http://spring.localhost:4171' },
    ...{ address: '/product/tarred-hemp-rope', tried: null, on: null, file: null, layer: null },
    ...start,
  };
  const names: Record<string, keyof Place> = { page: 'address', try: 'tried', on: 'on', file: 'file', layer: 'layer' };
  const workspace: Workspace = new Workspace('spring', place, {
    ...{ call, callForLines },
    language: () => languageHere(),
    go: (change) => {
      const next = Object.entries(change).map(([name, value]) => [names[name], value]);
      workspace.visit({ ...workspace.now.place, ...(Object.fromEntries(next) as Partial<Place>) });
    },
    draftChanged: () => void list(),
    announce: ({ path }) => announced.push(path),
    say: {
      success: (text) => said.push(text),
      info: (text) => said.push(text),
      error: (text) => said.push(text),
      loading: () => () => {},
    },
  });
  const list = async () => {
    const response = await answerCall(new Request('http://localhost/api/drafts/spring/files'));
    workspace.listed((await response.json()) as Parameters<Workspace['listed']>[0]);
  };
  const editor = new PlainEditor(() => workspace);
  workspace.setEditor(editor);
  workspace.setFrame({ post: (message) => posts.push(message), focus: () => {} });
  const ends = [workspace.start(), workspace.file.subscribe(() => editor.follow())];
  /** Leaves the Bench, once nothing that it asked is on its way. */
  const stop = async () => {
    ends.forEach((end) => end());
    await vi.waitUntil(() => flying === 0, { timeout: 10_000, interval: 5 });
    vi.unstubAllGlobals();
    delete (globalThis as { lastShop?: unknown }).lastShop;
  };
  /** Waits until something holds of the workspace. */
  const until = (holds: () => boolean) => vi.waitUntil(holds, { timeout: 10_000, interval: 5 });
  return { workspace, editor, posts, said, asked, announced, local, held, list, stop, until };
}
