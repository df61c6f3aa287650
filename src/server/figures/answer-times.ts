import type { MetricValueWithName } from 'prom-client';

/** Upper bounds of the times that are told apart, in seconds. */
const bounds = [0.001, 0.003, 0.01, 0.03, 0.1, 0.3, 1, 3, 10];

/** A metric as prom-client writes it. */
interface Written {
  name: string;
  help: string;
  type: 'histogram';
  aggregator: 'sum';
  values: MetricValueWithName<'part' | 'status' | 'le'>[];
}

/** How many answers of one part and status took how long. */
class TimesOf {
  /** By the first bound that they are not above; the last: above all of them. */
  readonly counts = new Array<number>(bounds.length + 1).fill(0);
  /** In seconds. */
  sum = 0;

  constructor(
    readonly part: string,
    readonly status: string,
  ) {}

  add(seconds: number): void {
    let at = 0;
    while (at < bounds.length && seconds > (bounds[at] as number)) at++;
    (this.counts[at] as number)++;
    this.sum += seconds;
  }
}

/**
 * Times of answers: a histogram as prom-client gives one, with less work for each answer. A page that is kept is sent in a hundred
 * microseconds, and noting that may take two.
 */
export class AnswerTimes {
  readonly name = 'last_answer_seconds';
  readonly help =
    'Time from a request to the end of its answer, by the part of Last that answers and the first digit of the status.';
  readonly #all = new Map<string, TimesOf>();

  of(part: string, status: string): TimesOf {
    const key = `${part} ${status}`;
    let times = this.#all.get(key);
    if (!times) this.#all.set(key, (times = new TimesOf(part, status)));
    return times;
  }

  /** What prom-client writes; of several processes it adds them up. */
  get(): Promise<Written> {
    const values = [...this.#all.values()].flatMap(({ part, status, counts, sum }) => {
      const value = (of: 'bucket' | 'sum' | 'count', value: number, le?: number | '+Inf') => ({
        ...{ metricName: `${this.name}_${of}`, value, labels: { ...(le === undefined ? {} : { le }), part, status } },
      });
      let upTo = 0;
      const buckets = bounds.map((le, at) => value('bucket', (upTo += counts[at] ?? 0), le));
      const count = upTo + (counts[bounds.length] ?? 0);
      return [...buckets, value('bucket', count, '+Inf'), value('sum', sum), value('count', count)];
    });
    const { name, help } = this;
    return Promise.resolve({ name, help, type: 'histogram', aggregator: 'sum', values });
  }
}
