import type { Condition } from '@/core/alternates';
import type { Refused } from '@/server/http';
import type { BulkEdit, Saving, Written, WrittenCell } from '@/server/records';
import type { Made, Making } from './apply';
import type { ImportAsk } from './plan';
import type { Overlapping } from './undo';

/**
 * Work on goods that can be long: a dry run, its rehearsal, an import, an undo; cells that are written, and a column of many products. `staging`: the
 * file in which an import is planned.
 */
export type GoodsWork =
  | { kind: 'plan'; staging: string; ask: ImportAsk }
  | { kind: 'rehearse'; staging: string }
  | { kind: 'apply'; staging: string; making: Making }
  | { kind: 'undo'; change: number; making: Omit<Making, 'title'>; overlapping?: Overlapping }
  | { kind: 'cells'; cells: readonly WrittenCell[]; partly: boolean; saving: Saving }
  | {
      kind: 'bulk';
      edit: BulkEdit;
      of: readonly string[] | { search: string; where: Condition | null };
      saving: Saving;
    };

/** What comes of work: a change (null: nothing was changed), how many records, and what was left. */
export type WorkMade = Made | Written;

/** What a thread says of its work: how far it is, what came of it, or why nothing did. */
export type GoodsSaid =
  | { done: number }
  | { made: WorkMade | null }
  | { refused: { status: number; body: Refused['body'] } }
  | { failed: string };

export type MadeOf<Work extends GoodsWork> = Work extends { kind: 'cells' | 'bulk' } ? Written : Made;

/** What a thread is told: one work, in this data folder. */
export interface GoodsTask {
  folder: string;
  work: GoodsWork;
}
