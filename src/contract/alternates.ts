import { z } from 'zod';
import { endpoint } from './endpoint';
import { subjectKinds } from '@/core/address';
import { alternateEntry, condition, alternatesEdit } from '@/core/alternates';
import { layer, subjectKind } from './shared';

/** Requests and answers about alternates: who gets which template, and why. */

const targetShape = { kind: z.enum(subjectKinds), piece: alternateEntry.shape.piece };
export const target = z.strictObject(targetShape);
export type TargetItem = z.output<typeof target>;

const day = z.iso.date();
const condensed = z.string().max(300);

export const makeAlternateRequest = z.strictObject({
  ...targetShape,
  name: z
    .string()
    .min(1, 'Give it a name')
    .max(60)
    .regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/, 'The name is made of small letters, digits and single hyphens: cut-length'),
  label: z.string().trim().min(1, 'Give it a label').max(80),
  note: z.string().max(500).default(''),
  types: z.array(z.string()).default([]),
  /** Name of the template it starts from, of the same target: `default`. */
  from: z.string(),
  /** `changes`: it changes places of that template; `copy`: it is that template's file, whole; `empty`: it begins with nothing. */
  as: z.enum(['changes', 'copy', 'empty']).default('copy'),
});
export type MakeAlternateRequest = z.input<typeof makeAlternateRequest>;

export const renameAlternateRequest = z.strictObject({
  ...targetShape,
  name: z.string(),
  to: makeAlternateRequest.shape.name,
});
export const namedAlternate = z.strictObject({ ...targetShape, name: z.string() });

export const editRequest = z.strictObject({ edit: alternatesEdit });
export type EditRequest = z.input<typeof editRequest>;
/** The change that was made, so that it can be undone; null: nothing had to be changed. */
export const editAnswer = z.object({ change: z.number().nullable() });
export type EditAnswer = z.output<typeof editAnswer>;

export const ruleItem = z.object({
  id: z.string(),
  ...targetShape,
  alternate: z.string(),
  when: condition,
  from: z.string().nullable(),
  to: z.string().nullable(),
  /** The same days of every year, from the first one on. */
  yearly: z.boolean().optional(),
  note: z.string(),
  /** The condition in words, and the days. */
  says: z.string(),
  days: z.string(),
});
export type RuleItem = z.output<typeof ruleItem>;

export const templateItem = z.object({
  name: z.string(),
  label: z.string(),
  note: z.string(),
  types: z.array(z.string()),
  file: z.string(),
  layer: layer.nullable(),
  /** The template that it changes, which may be a layer's below by its own name; null: it is a whole file. */
  amends: z.string().nullable(),
  /** The layer whose file is whole, below those that change it: what a copy is taken of. null where there is no file. */
  whole: layer.nullable(),
});
export type TemplateItem = z.output<typeof templateItem>;

export const targetItem = z.object({
  ...targetShape,
  /** The kind of page, or the piece. */
  key: z.string(),
  templates: z.array(templateItem),
  pins: z.array(
    z.object({ slug: z.string(), alternate: z.string(), name: z.string(), detail: z.string(), gone: z.boolean() }),
  ),
  rules: z.array(ruleItem),
  /** Pages of this kind with pieces on their shelves that stand on no other: `pieces` has what each is called, in their order. */
  arranged: z.array(z.object({ slug: z.string(), name: z.string(), pieces: z.array(z.string()), gone: z.boolean() })),
});
export type AlternatesTarget = z.output<typeof targetItem>;

export const alternatesAnswer = z.object({
  targets: z.array(targetItem),
  /** Product types of the catalogue. */
  types: z.array(z.string()),
  wrong: z.array(z.object({ path: z.string(), line: z.number(), says: z.string() })),
  today: z.string(),
  /** Changes whenever what this was made from does: the draft, the catalogue, the day. */
  version: z.string(),
});
export type AlternatesAnswer = z.output<typeof alternatesAnswer>;

/** What rules can ask about a kind of subject, with what there is to choose from. */
export const factsOfKindAnswer = z.object({
  currency: z.string(),
  facts: z.array(
    z.object({
      fact: z.string(),
      name: z.string().nullable(),
      label: z.string(),
      type: z.enum(['text', 'set', 'number', 'money', 'day', 'flag']),
      unit: z.string(),
      options: z.array(z.object({ value: z.string(), label: z.string() })).nullable(),
    }),
  ),
});
export type FactsOfKind = z.output<typeof factsOfKindAnswer>;
export type FactItem = FactsOfKind['facts'][number];

export const coverRequest = z.strictObject({
  target,
  on: day.nullable(),
  by: z.enum(['category', 'type']),
});
export type CoverRequest = z.output<typeof coverRequest>;

const way = z.object({
  template: z.string(),
  because: z.enum(['tried', 'pin', 'rule', 'default']),
  rule: z.string().nullable(),
  count: z.number(),
});

export const coverage = z.object({
  size: z.number(),
  ways: z.array(way),
  rules: z.array(
    z.object({
      id: z.string(),
      holds: z.number(),
      decides: z.number(),
      wrong: z.string().nullable(),
      idle: z.boolean(),
    }),
  ),
  /** Groups of the map, a tree by their keys; each with how many of its own come by each way. */
  groups: z.array(
    z.object({
      key: z.string(),
      parent: z.string().nullable(),
      name: z.string(),
      counts: z.array(z.tuple([z.number(), z.number()])),
    }),
  ),
});
export type CoverageItem = z.output<typeof coverage>;

const fix = z.union([
  z.object({ title: z.string(), edit: alternatesEdit }),
  z.object({ title: z.string(), retire: namedAlternate }),
  z.object({ title: z.string(), makeFile: namedAlternate }),
  z.object({ title: z.string(), openRule: z.string() }),
]);
export const assignmentProblem = z.object({
  code: z.string(),
  target,
  line: z.number(),
  says: z.string(),
  fixes: z.array(fix),
});
export type AssignmentProblemItem = z.output<typeof assignmentProblem>;

export const problemsAnswer = z.object({ problems: z.array(assignmentProblem) });
export type ProblemsAnswer = z.output<typeof problemsAnswer>;

/** A line of the answer: how far it is, and what is known by then. */
export const coverLine = z.object({
  progress: z.object({ done: z.number(), of: z.number() }),
  coverage: coverage.nullable(),
  problems: z.array(assignmentProblem).nullable(),
  switches: z
    .array(
      z.object({
        day: z.string(),
        count: z.number(),
        names: z.array(z.string()),
        rules: z.array(z.string()),
      }),
    )
    .nullable(),
  done: z.boolean(),
});
export type CoverLine = z.output<typeof coverLine>;

export const whoRequest = z.strictObject({
  target,
  on: day.nullable(),
  by: z.enum(['category', 'type']),
  /** Key of a group of the map; null: all. */
  group: condensed.nullable(),
  template: condensed.nullable(),
  because: z.enum(['pin', 'rule', 'default']).nullable(),
  rule: condensed.nullable(),
  words: z.string().max(200),
  from: z.int().min(0),
  limit: z.int().min(1).max(200),
});
export type WhoRequest = z.output<typeof whoRequest>;

const who = z.object({
  kind: subjectKind,
  slug: z.string(),
  name: z.string(),
  detail: z.string(),
  view: z.string().nullable(),
  template: z.string(),
  because: z.enum(['tried', 'pin', 'rule', 'default']),
  rule: z.string().nullable(),
});
export type WhoItem = z.output<typeof who>;
export const whoAnswer = z.object({ total: z.number(), rows: z.array(who) });
export type WhoAnswer = z.output<typeof whoAnswer>;

export const matchRequest = z.strictObject({
  target,
  on: day.nullable(),
  when: condition,
  /** The rule that is being changed; null: a new one, after the others. */
  id: z.string().nullable(),
});
export const matchAnswer = z.object({
  count: z.number(),
  of: z.number(),
  /** How many of them get their template by what goes before. */
  taken: z.number(),
  wrong: z.string().nullable(),
  rows: z.array(who),
});
export type MatchAnswer = z.output<typeof matchAnswer>;

/** Who would get another template if an alternate were retired, and which. */
export const fallAnswer = z.object({
  count: z.number(),
  to: z.array(z.object({ template: z.string(), count: z.number() })),
  rows: z.array(who),
});
export type FallAnswer = z.output<typeof fallAnswer>;

export interface SaidOutcome {
  held: boolean;
  text: string;
  /** The value that decided a question; null for a group. */
  value: string | null;
  parts: SaidOutcome[];
}
const saidOutcome: z.ZodType<SaidOutcome> = z.lazy(() =>
  z.object({ held: z.boolean(), text: z.string(), value: z.string().nullable(), parts: z.array(saidOutcome) }),
);

export const explanation = z.object({
  target,
  template: z.string(),
  label: z.string(),
  because: z.enum(['tried', 'pin', 'rule', 'default']),
  rule: z.string().nullable(),
  steps: z.array(
    z.object({
      kind: z.enum(['pin', 'rule', 'default']),
      id: z.string().nullable(),
      alternate: z.string().nullable(),
      label: z.string().nullable(),
      held: z.boolean(),
      decides: z.boolean(),
      text: z.string(),
      outcome: saidOutcome.nullable(),
    }),
  ),
  /** Templates that the subject may be given: `default`, and the alternates that are meant for it. */
  choices: z.array(z.object({ name: z.string(), label: z.string() })),
});
export type ExplanationItem = z.output<typeof explanation>;

export const explainAnswer = z.object({
  subject: z.object({ kind: subjectKind, slug: z.string(), name: z.string() }),
  address: z.string(),
  on: z.string(),
  /** Of its page, and of each piece with alternates that can be given it. */
  explanations: z.array(explanation),
});
export type ExplainAnswer = z.output<typeof explainAnswer>;

const alternates = '/api/drafts/{draft}/alternates';

export const alternateEndpoints = {
  list: endpoint('GET', alternates, 'Lists the templates of every target, with pins and rules in their order', {
    answer: alternatesAnswer,
  }),
  make: endpoint('POST', alternates, 'Makes an alternate', { body: makeAlternateRequest, answer: editAnswer }),
  edit: endpoint('POST', `${alternates}/edit`, 'Does one edit of the assignments', {
    body: editRequest,
    answer: editAnswer,
  }),
  rename: endpoint('POST', `${alternates}/rename`, 'Gives an alternate another name; pins and rules follow', {
    body: renameAlternateRequest,
    answer: editAnswer,
  }),
  retire: endpoint('POST', `${alternates}/retire`, 'Takes an alternate out, with what is assigned to it', {
    body: namedAlternate,
    answer: editAnswer,
  }),
  makeFile: endpoint('POST', `${alternates}/file`, 'Makes the missing file of an alternate', {
    body: namedAlternate,
    answer: editAnswer,
  }),
  facts: endpoint('GET', `${alternates}/facts`, 'Lists what rules can ask about subjects of a kind', {
    query: z.object({ kind: subjectKind }),
    answer: factsOfKindAnswer,
  }),
  explain: endpoint('GET', `${alternates}/explain`, 'Explains why the subject at an address gets its templates', {
    query: z.object({
      address: z.string().max(2000).default('/'),
      try: z.string().max(200).optional(),
      on: z.iso.date().optional(),
    }),
    answer: explainAnswer,
  }),
  problems: endpoint('GET', `${alternates}/problems`, 'Lists what is wrong with the assignments, each with fixes', {
    answer: problemsAnswer,
  }),
  cover: endpoint('POST', `${alternates}/cover`, 'Works out who gets what, for all subjects', {
    body: coverRequest,
    sends: 'lines',
    answer: coverLine,
  }),
  who: endpoint('POST', `${alternates}/who`, 'Lists the subjects of a place of the map, with what each gets', {
    body: whoRequest,
    answer: whoAnswer,
  }),
  match: endpoint('POST', `${alternates}/match`, 'Says for whom a condition holds', {
    body: matchRequest,
    answer: matchAnswer,
  }),
  fall: endpoint('POST', `${alternates}/fall`, 'Says who would get another template if an alternate were retired', {
    body: namedAlternate,
    answer: fallAnswer,
  }),
};
