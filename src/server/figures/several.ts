import { AggregatorRegistry, type Registry } from 'prom-client';

/** In one of several processes that serve: has the one that started them ask for these figures. */
export function tellFigures(registry: Registry): void {
  AggregatorRegistry.setRegistries([registry]);
  // Making one is how prom-client begins to answer.
  void new AggregatorRegistry();
}

/** In the process that started the others: their figures, summed. */
export function figuresOfAll(): () => Promise<{ type: string; text: string }> {
  const all = new AggregatorRegistry();
  return async () => ({ type: all.contentType, text: await all.clusterMetrics() });
}
