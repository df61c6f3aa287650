import { describe, expect, it, vi } from 'vitest';
import { LanguageClient, type LanguagePort } from './language-client';
import { openDoor, type FromLanguage, type ToLanguage } from './language-door';
import type { LanguageService } from './language-service';

/** A language whose answers a test gives; `began`: what it was asked, in order. */
function slow() {
  const began: string[] = [];
  const gates: (() => void)[] = [];
  const service = {
    answer: async (kind: string, ask: unknown, signal?: AbortSignal) => {
      began.push(`${kind} ${JSON.stringify(ask)}`);
      await new Promise<void>((resolve) => gates.push(resolve));
      signal?.throwIfAborted();
      if (ask === 'wrong') throw new Error('It cannot be read.');
      return `${kind} answered`;
    },
  } as unknown as LanguageService;
  const sent: FromLanguage[] = [];
  const messages: ToLanguage[] = [];
  const port: LanguagePort = { postMessage: () => {}, onmessage: null, terminate: vi.fn() };
  const take = openDoor(service, (message) => {
    sent.push(message);
    port.onmessage?.({ data: message } as MessageEvent<FromLanguage>);
  });
  port.postMessage = (message) => {
    messages.push(message);
    take(message);
  };
  /** Lets the request that is being answered go on, once it has begun. */
  const go = async () => {
    await vi.waitUntil(() => gates.length > 0);
    gates.shift()?.();
  };
  return { client: new LanguageClient(port), began, sent, messages, go, port };
}

describe('the language’s worker', () => {
  it('answers one request at a time, in the order in which they came', async () => {
    const { client, began, go } = slow();
    const answers = [client.ask('texts', []), client.ask('check', ['a.html']), client.ask('check', ['b.html'])];
    expect(began).toEqual(['texts []']);
    await go();
    expect(await answers[0]).toBe('texts answered');
    await go();
    await go();
    await Promise.all(answers);
    expect(began).toEqual(['texts []', 'check ["a.html"]', 'check ["b.html"]']);
  });

  it('does not begin what was cancelled before its turn', async () => {
    const { client, began, go, messages } = slow();
    const first = client.ask('check', ['a.html']);
    const asking = new AbortController();
    const second = client.ask('check', ['b.html'], asking.signal);
    const third = client.ask('check', ['c.html']);
    asking.abort();
    await expect(second).rejects.toMatchObject({ name: 'AbortError' });
    expect(messages.at(-1)).toEqual({ cancel: 2 });
    await go();
    await first;
    await go();
    await third;
    expect(began).toEqual(['check ["a.html"]', 'check ["c.html"]']);
  });

  it('stops what is cancelled while it is worked on, and goes on to the next', async () => {
    const { client, sent, go } = slow();
    const asking = new AbortController();
    const first = client.ask('check', ['a.html'], asking.signal);
    const second = client.ask('check', ['b.html']);
    asking.abort();
    await expect(first).rejects.toMatchObject({ name: 'AbortError' });
    await go();
    await go();
    expect(await second).toBe('check answered');
    expect(sent.map(({ id }) => id)).toEqual([2]);
  });

  it('says with each answer which state it is of: one that was overtaken by news is known for it', async () => {
    const { client, go } = slow();
    const told = client.ask('load', {} as never);
    await go();
    await told;
    const before = client.stated('check', ['a.html']);
    await go();
    const { state } = await before;
    expect(client.isNow(state)).toBe(true);
    const late = client.stated('check', ['a.html']);
    const news = client.ask('texts', []);
    await go();
    expect(client.isNow((await late).state)).toBe(false);
    await go();
    await news;
    const again = client.stated('check', ['a.html']);
    await go();
    expect(client.isNow((await again).state)).toBe(true);
  });

  it('goes on after a request that fails', async () => {
    const { client, go } = slow();
    const wrong = client.ask('check', 'wrong' as never);
    const right = client.ask('check', ['a.html']);
    const refused = expect(wrong).rejects.toThrow('It cannot be read.');
    await go();
    await refused;
    await go();
    expect(await right).toBe('check answered');
  });

  it('is not asked what is not wanted any more, and leaves no one waiting when the Bench is left', async () => {
    const { client, messages, port } = slow();
    await expect(client.ask('check', [], AbortSignal.abort())).rejects.toMatchObject({ name: 'AbortError' });
    expect(messages).toEqual([]);
    const asked = client.ask('check', ['a.html']);
    client.stop();
    await expect(asked).rejects.toThrow('The workbench was left.');
    expect(port.terminate).toHaveBeenCalledOnce();
  });
});
