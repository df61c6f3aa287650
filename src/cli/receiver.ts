import { StandIn } from '@/server/orders';
import { said, type Say } from './said';

/** `last receiver`: a stand-in for the shop's own system, which prints each order that is sent to it, until it is stopped. */
export function receiverCommand(
  { port, secret, refuse }: { port: string; secret: string; refuse: string },
  say: Say,
  complain: Say,
): Promise<number> {
  return said(complain, async () => {
    const [at, first] = [Number(port), Number(refuse)];
    if (!Number.isInteger(at) || at < 0 || at > 65_535) throw new RangeError(`“${port}” is not a port.`);
    if (!Number.isInteger(first) || first < 0) throw new RangeError(`“${refuse}” is not a number of messages.`);
    const standIn = await StandIn.open({
      ...{ secret, port: at, refuse: first, say },
      hear: ({ id, what, at: when, order }) => say(JSON.stringify({ id, what, at: when, order })),
    });
    say(`Waiting for orders on ${standIn.url}`);
    await new Promise<void>((resolve) => {
      for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => resolve());
    });
    standIn.close();
  });
}
