import { createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { z, type ZodType } from 'zod';
import { isUnwritable } from '@/store';
import { refuse, Refused } from './refusal';
import { stillAsks } from './who';
import { fault } from '@/server/log';

/** Larger bodies are refused before they are read to their end. Twice the largest text, since JSON may write a character longer. */
const maxBodyBytes = 6_000_000;
const maxFormBytes = 60_000_000;

/** Runs a route's work and answers with JSON: its result, or the refusal in words. */
export function answer(work: () => unknown): Promise<Response> {
  return refusing(async () => Response.json(await work(), { headers: { 'Cache-Control': 'no-store' } }));
}

/** Runs a route's work, which answers by itself; what it refuses is answered in words. `id`: of the request, for the log. */
export async function refusing(work: () => Promise<Response>, id: string | null = null): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    // By name, not by class: a bundle may hold a class of its own.
    if ((error as Error).name === 'Refused') {
      const { status, body } = error as Refused;
      return Response.json(body, { status });
    }
    if ((error as Error).name === 'JobEnded') {
      const message = `This took too long and was ended: ${(error as Error).message}. Look for a template that goes through too much.`;
      return Response.json({ code: 'time', message }, { status: 503 });
    }
    if ((error as Error).name === 'DataLost') {
      fault((error as Error).message, id);
      return Response.json({ code: 'data', message: (error as Error).message }, { status: 503 });
    }
    if (isUnwritable(error)) {
      fault(error as Error, id);
      const why =
        (error as { code: string }).code === 'SQLITE_FULL' ? 'The disk is full' : 'The data folder cannot be written';
      const message = `${why}: nothing was saved. Make room, or give back its rights, then save again; what you typed is kept in this browser.`;
      return Response.json({ code: 'full', message }, { status: 507 });
    }
    fault(error as Error, id);
    const message = 'Last failed at this: nothing was changed. What happened stands in the server’s log.';
    return Response.json({ code: 'fault', message }, { status: 500 });
  }
}

/** A request's body, read by its contract; what does not fit is refused with where and why. */
export async function bodyOf<T>(request: Request, contract: ZodType<T>): Promise<T> {
  const text = await limitedText(request);
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    refuse(400, 'body', 'The request’s body is not valid JSON.');
  }
  return byContract(json, contract);
}

export function byContract<T>(given: unknown, contract: ZodType<T>): T {
  const result = contract.safeParse(given);
  if (result.success) return result.data;
  const issue = result.error.issues[0] as z.core.$ZodIssue;
  const where = issue.path.length ? `“${issue.path.join('.')}”: ` : '';
  return refuse(400, 'contract', `${where}${issue.message}`);
}

/** A form with files; refused when it is longer than may be. */
export async function formOf(request: Request): Promise<FormData> {
  const bytes = await bytesOf(request, maxFormBytes);
  try {
    const headers = { 'Content-Type': request.headers.get('content-type') ?? '' };
    return await new Response(new Uint8Array(bytes), { headers }).formData();
  } catch {
    return refuse(400, 'body', 'The request’s body is not a form.');
  }
}

/** A request's body as text; refused when it is longer than may be, before it is read to its end. */
export async function limitedText(request: Request, most = maxBodyBytes): Promise<string> {
  return (await bytesOf(request, most)).toString('utf8');
}

/** A request's body as bytes; refused like a text. */
export async function bytesOf(request: Request, most: number): Promise<Buffer> {
  const length = Number(request.headers.get('content-length') ?? 0);
  if (length > most) tooLarge(length, most);
  const chunks: Uint8Array[] = [];
  let size = 0;
  const reader = request.body?.getReader();
  while (reader) {
    const { done, value } = await reader.read();
    if (done) break;
    size += value.byteLength;
    if (size > most) {
      await reader.cancel();
      tooLarge(size, most);
    }
    chunks.push(value);
  }
  stillAsks(request);
  return Buffer.concat(chunks);
}

/** Writes a request's body to a file as it comes; refused like a text. */
export async function bodyToFile(request: Request, file: string, most: number): Promise<void> {
  let size = 0;
  await pipeline(
    Readable.fromWeb((request.body ?? new Blob([]).stream()) as Parameters<typeof Readable.fromWeb>[0]),
    async function* (chunks: AsyncIterable<Uint8Array>) {
      for await (const chunk of chunks) {
        size += chunk.length;
        if (size > most) tooLarge(size, most);
        yield chunk;
      }
    },
    createWriteStream(file),
  );
  stillAsks(request);
}

function tooLarge(size: number, most: number): never {
  refuse(413, 'size', `The request holds ${(size / 1e6).toFixed(1)} MB; at most ${most / 1e6} MB are taken.`);
}
