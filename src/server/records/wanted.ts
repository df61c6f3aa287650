import type { GoodsRecord, RecordKind } from '@/store';

/**
 * What someone wants of one record: it is added (`before` null), removed (`after` null), or changed: fields as they saw them and as they
 * are to be. Objects and lists in them need hold only what is to change.
 */
export interface WantedChange {
  kind: RecordKind;
  slug: string;
  before: GoodsRecord | null;
  after: GoodsRecord | null;
}
