import { collectDefaultMetrics, Counter, Gauge, type Histogram, Registry } from 'prom-client';
import type { Shop } from '@/server/shop';
import { catalogueState, OrderEvents, Orders } from '@/store';
import { AnswerTimes } from './answer-times';

export interface Metrics {
  registry: Registry;
  answers: AnswerTimes;
}

/** Figures of a workbench with its shop; or of a render node, which has neither orders nor threads. */
export function metricsOf(shop: () => Shop, { isNode = false } = {}): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const answers = new AnswerTimes();
  // It asks of a metric no more than its name, and what to write.
  registry.registerMetric(answers as unknown as Histogram);
  new Counter({
    name: 'last_pages_total',
    help: 'Pages by what they came to: made, made again after a change, or found to be the same after one.',
    labelNames: ['came'],
    registers: [registry],
    collect() {
      this.reset();
      for (const [came, count] of Object.entries(shop().pages.counts)) this.inc({ came }, count);
    },
  });
  const gauge = (name: string, help: string, value: () => number) =>
    new Gauge({
      // Of several processes that serve: what the one furthest behind has.
      ...{ name, help, registers: [registry], aggregator: 'min' },
      collect() {
        this.set(value());
      },
    });
  gauge('last_goods_revision', 'Goes up with each change of the goods.', () => catalogueState(shop().sql).revision);
  gauge('last_live_release', 'Number of the release that visitors see.', () => shop().themes.live()?.number ?? 0);
  if (isNode) return { registry, answers };
  gauge('last_order_messages_waiting', 'Messages about orders that could not be sent yet.', () => {
    return new OrderEvents(shop().sql).stuck()?.count ?? 0;
  });
  new Gauge({
    name: 'last_orders',
    help: 'Orders by what became of them.',
    labelNames: ['state'],
    registers: [registry],
    collect() {
      for (const [state, count] of Object.entries(new Orders(shop().sql).counts({}))) this.set({ state }, count);
    },
  });
  new Gauge({
    name: 'last_jobs_waiting',
    help: 'Work that waits for a thread: of pages that customers wait for (live), and of the workbench (preview).',
    labelNames: ['lane'],
    registers: [registry],
    collect() {
      for (const [lane, count] of Object.entries(shop().jobs?.waiting() ?? {})) this.set({ lane }, count);
    },
  });
  return { registry, answers };
}

/** The API is bundled apart from the server that counts its answers: both find the counts here. */
const global = globalThis as { lastAnswers?: Metrics['answers'] };

/** Makes these the answers that the status screen reports. */
export const tellAnswers = (answers: Metrics['answers']): void => void (global.lastAnswers = answers);

/** Answers since the start, by the part that was asked; times in milliseconds, as bounds of the histogram. */
export async function answersSoFar(): Promise<{ part: string; count: number; failed: number; p95Ms: number | null }[]> {
  const values = (await global.lastAnswers?.get())?.values ?? [];
  const parts = new Map<string, { count: number; failed: number; upTo: Map<number, number> }>();
  for (const { metricName, labels, value } of values) {
    const part = String(labels.part);
    const of = parts.get(part) ?? { count: 0, failed: 0, upTo: new Map<number, number>() };
    parts.set(part, of);
    if (metricName?.endsWith('_count')) {
      of.count += value;
      // Who goes on to another page breaks off what is still coming: that is no failure.
      if (labels.status === '5xx') of.failed += value;
    } else if (metricName?.endsWith('_bucket')) {
      const le = Number((labels as { le?: unknown }).le === '+Inf' ? Infinity : (labels as { le?: unknown }).le);
      of.upTo.set(le, (of.upTo.get(le) ?? 0) + value);
    }
  }
  return [...parts].map(([part, { count, failed, upTo }]) => {
    const [bound = Infinity] = [...upTo].sort(([a], [b]) => a - b).find(([, within]) => within >= 0.95 * count) ?? [];
    return { part, count, failed, p95Ms: Number.isFinite(bound) ? bound * 1000 : null };
  });
}
