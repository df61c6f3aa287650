/** Long work as lines of JSON, each sent when it is known; if it fails, the last one says why. It stops when nobody reads it any more. */
export function lines(
  work: (line: (value: object) => void, signal: AbortSignal) => Promise<void>,
): ReadableStream<Uint8Array> {
  const write = new TextEncoder();
  const stop = new AbortController();
  return new ReadableStream({
    async start(controller) {
      const line = (value: object) => {
        if (!stop.signal.aborted) controller.enqueue(write.encode(`${JSON.stringify(value)}\n`));
      };
      try {
        await work(line, stop.signal);
      } catch (error) {
        line({ failed: (error as Error).message });
      }
      if (!stop.signal.aborted) controller.close();
    },
    cancel() {
      stop.abort();
    },
  });
}
