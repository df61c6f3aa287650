import type { Logger } from 'pino';

/** The API is bundled apart from the server that opens the log: both find it here. */
const global = globalThis as { lastLog?: Logger };

/** What was noted is written at the latest so long afterwards, in milliseconds. */
const flushEvery = 500;
/** It is written in pieces of so many bytes: each write takes as long as many requests. */
const atOnce = 16_384;
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
  /** Lines that are not written yet: put together here, since each write by itself takes three times as long as the line. */
  let text = '';
  const write = (): void => {
    if (text) to.write(text);
    text = '';
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
  const lines = {
    write(line: string): void {
      text += line;
      if (text.length > atOnce) write();
    },
  };
  global.lastLog = pino({ base: null, timestamp: isoTime, formatters: { level: (level) => ({ level }) } }, lines);
}

/** What is noted of an answer. The time in milliseconds. */
export interface Answered {
  id: string;
  part: string;
  method: string;
  path: string;
  status: number;
  ms: number;
  /** Whoever asked was gone before the end. */
  broken?: boolean;
}

/** Notes an answer; null: answers are not noted. */
export function logAnswer(): ((answered: Answered) => void) | null {
  const log = global.lastLog;
  return log ? (answered) => log.info(answered) : null;
}

/** Says that something failed, to who runs Last; `id`: in answering which request. */
export function fault(what: string | Error, id: string | null = null): void {
  const log = global.lastLog;
  if (!log) return console.error(what);
  const about = id ? { id } : {};
  if (typeof what === 'string') log.error(about, what);
  else log.error({ ...about, err: what }, what.message);
}
