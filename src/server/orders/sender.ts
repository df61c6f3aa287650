import { OrderEvents, type OrderEvent, type Statements } from '@/store';
import { tell } from './tell';

/** The first try after one that failed comes after so long, and each further one after twice as long, up to an hour. In milliseconds. */
const first = 10_000;
const longest = 3_600_000;
/** So many are told at once. */
const atOnce = 4;
const maxInRound = 200;

export const waitAfter = (tries: number): number => Math.min(longest, first * 2 ** Math.min(tries, 20));

/** Tells a receiver of orders: each event at least once, those of one order in their order, until it has answered that it has them. */
export class OrderSender {
  readonly #events: OrderEvents;

  constructor(
    readonly sql: Statements,
    private readonly now = () => new Date(),
    private readonly timeoutMs = 10_000,
  ) {
    this.#events = new OrderEvents(sql);
  }

  /** Tells all that is due; how many were taken. */
  async round(): Promise<number> {
    const receiver = this.#events.receiver();
    if (!receiver) return 0;
    let taken = 0;
    const left = this.#events.due(this.now().toISOString(), maxInRound);
    const work = async (): Promise<void> => {
      for (let event = left.shift(); event; event = left.shift()) if (await this.#tell(receiver, event)) taken++;
    };
    await Promise.all(Array.from({ length: atOnce }, work));
    return taken;
  }

  async #tell(receiver: { url: string; secret: string }, event: OrderEvent): Promise<boolean> {
    const order = this.#events.body(event.number);
    // Only a backup that was put back can have lost it.
    if (!order) return this.#failed(event, 'The order is not there any more.');
    try {
      const said = await tell(receiver, event, order, this.timeoutMs);
      this.#events.sent(event.id, this.now().toISOString(), said);
      return true;
    } catch (error) {
      return this.#failed(event, (error as Error).message);
    }
  }

  #failed({ id, tries }: OrderEvent, said: string): false {
    this.#events.failed(id, new Date(this.now().getTime() + waitAfter(tries)).toISOString(), said);
    return false;
  }
}
