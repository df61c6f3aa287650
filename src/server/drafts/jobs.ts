import type { StateRow } from '@/store';
import { compareStates, planBring, planBringing } from './compare';
import { listFiles, openFile, themeSnapshot } from './files';
import { cleanIcon } from '@/server/storefront';
import { driftOf, layersOf, lookBelow } from './layers';
import { changesOf, checkedFor } from './release';
import { phrasesOf, phraseUsesOf, planPhraseEdits, planSheet, sheetOf } from './phrases';
import { planFileRename } from './rename';
import { type Shop, shopJobs } from '@/server/shop';
import { contentOfDraft } from './content';
import { planDraftUpdate, updatePlan } from './updates';

/** What threads do for drafts. What is planned comes back, and is written where the database may be written (in-thread.ts). */
export const draftJobs = shopJobs('drafts', {
  open: openFile,
  problems: (shop: Shop, draft: StateRow, path: string) => openFile(shop, draft, path).problems,
  files: listFiles,
  snapshot: themeSnapshot,
  layers: layersOf,
  look: lookBelow,
  drift: driftOf,
  icon: (_: Shop, path: string, text: string) => cleanIcon(path, text),
  changes: changesOf,
  checked: checkedFor,
  content: contentOfDraft,
  compare: compareStates,
  planFileRename,
  phrases: phrasesOf,
  phraseUses: phraseUsesOf,
  planPhrases: planPhraseEdits,
  phraseSheet: sheetOf,
  planSheet,
  planSheetEdit: (shop: Shop, draft: StateRow, bytes: Uint8Array) => planSheet(shop, draft, bytes).edit,
  update: updatePlan,
  planUpdate: planDraftUpdate,
  bringing: (shop: Shop, into: StateRow, from: StateRow) => planBring(shop, into, from).answer,
  planBringing,
});
