import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import type { Shop } from '@/server/shop';
import { catalogueState, OrderEvents, Orders } from '@/store';

/** Bounds of the times of answers, in seconds. */
const buckets = [0.001, 0.003, 0.01, 0.03, 0.1, 0.3, 1, 3, 10];

export interface Metrics {
  registry: Registry;
  answers: Histogram<'part' | 'status'>;
}

/** Figures of a workbench with its shop; or of a render node, which has neither orders nor threads. */
export function metricsOf(shop: () => Shop, { isNode = false } = {}): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const answers = new Histogram({
    name: 'last_answer_seconds',
    help: 'Time from a request to the end of its answer, by the part of Last that answers and the first digit of the status.',
    labelNames: ['part', 'status'] as const,
    buckets,
    registers: [registry],
  });
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
