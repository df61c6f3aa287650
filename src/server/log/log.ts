import type { Logger } from 'pino';

/** The API is bundled apart from the server that opens the log: both find it here. */
const global = globalThis as { lastLog?: { pino: Logger; answered: (answered: Answered) => void } };

/** What was noted is written at the latest so long afterwards, in milliseconds. */
const flushEvery = 500;
/** It is written in pieces of so many lines: each write takes as long as many requests. */
const atOnce = 80;
/** So much waits at the most where it cannot be written; what is more is dropped. */
const maxWaiting = 1_000_000;

/**
 * Opens the log, as lines of JSON: in a file (it is opened again at SIGHUP, for who moves it away), or on standard output (`-`). Left out: faults alone are
 * said, as text.
 *
 * @throws an error of `node:fs` where the file cannot be written
 */
export async function openLog(where = process.env.LAST_LOG): Promise<void> {
  if (!where) return;
  const { default: pino } = await import('pino');
  const to = pino.destination({ dest: where === '-' ? 1 : where, sync: false, maxLength: maxWaiting });
  await new Promise<void>((resolve, reject) => to.once('ready', resolve).once('error', reject));
  let said = false;
  // Pages are sent although nothing can be noted, as on a full disk.
  to.on('error', (error: Error) => {
    if (!said) console.error(`The log cannot be written: ${error.message}`);
    said = true;
  });
  if (where !== '-') process.on('SIGHUP', () => to.reopen());
  /** What is not written yet, lines and answers. They are put into words together, and written together: that is quicker than one by one. */
  let waiting: (string | Answered)[] = [];
  const write = (): void => {
    if (waiting.length) to.write(waiting.map((one) => (typeof one === 'string' ? one : lineOf(one))).join(''));
    waiting = [];
  };
  const note = (one: string | Answered): void => {
    waiting.push(one);
    if (waiting.length >= atOnce) write();
  };
  setInterval(write, flushEvery).unref();
  process.once('exit', () => {
    try {
      write();
      to.flushSync();
    } catch {
      // It could not be written before either.
    }
  });
  const { isoTime } = pino.stdTimeFunctions;
  const formatters = { level: (level: string) => ({ level }) };
  const made = pino({ base: null, timestamp: isoTime, formatters }, { write: note });
  global.lastLog = { pino: made, answered: note };
}

/** What is noted of an answer. The time in milliseconds. */
export interface Answered {
  /** When, in milliseconds since 1970. */
  at: number;
  id: string;
  part: string;
  method: string;
  path: string;
  status: number;
  ms: number;
  /** False where the connection closed before the whole answer was sent. */
  isWhole: boolean;
}

let second = { at: -1, text: '' };
/** A time as ISO 8601: what is the same for a whole second is written once. */
function isoOf(at: number): string {
  const seconds = Math.floor(at / 1000);
  if (seconds !== second.at) second = { at: seconds, text: new Date(at).toISOString().slice(0, 20) };
  return `${second.text}${String(at % 1000).padStart(3, '0')}Z`;
}

/** A line as pino would write it, in a third of its time: a kept page takes little more than that. All but the path is known not to need escaping. */
const lineOf = ({ at, id, part, method, path, status, ms, isWhole }: Answered): string =>
  `{"level":"info","time":"${isoOf(at)}","id":"${id}","part":"${part}","method":"${method}","path":${JSON.stringify(path)},` +
  `"status":${status},"ms":${Math.round(ms * 10) / 10}${isWhole ? '' : ',"broken":true'}}\n`;

/** Notes an answer; null: answers are not noted. */
export const logAnswer = (): ((answered: Answered) => void) | null => global.lastLog?.answered ?? null;

/** Says that something failed, to who runs Last; `id`: in answering which request. */
export function fault(what: string | Error, id: string | null = null): void {
  const log = global.lastLog?.pino;
  if (!log) return console.error(what);
  const about = id ? { id } : {};
  if (typeof what === 'string') log.error(about, what);
  else log.error({ ...about, err: what }, what.message);
}
