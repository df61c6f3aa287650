import { z } from 'zod';
import { listingKinds, saidFor, settingShape, type ListingLook, type ListingSettings } from './look';

export type LookValue = string | number | boolean | null;

/** A shape of which each part may be missing; one that is wrong counts as missing. */
const lenient = <Shape extends z.ZodRawShape>(shape: Shape) =>
  Object.fromEntries(
    Object.entries(shape).map(([name, type]) => [name, (type as z.ZodType).optional().catch(undefined)]),
  ) as unknown as { [Name in keyof Shape]: z.ZodCatch<z.ZodOptional<Shape[Name]>> };

const declared = z.object({ name: z.string(), ...lenient(settingShape) });

/** A setting as the form shows it. */
export interface Setting {
  name: string;
  type: NonNullable<z.output<typeof declared>['type']>;
  label: string;
  group: string;
  value: LookValue;
  /** What holds without the shop's own value. */
  below: LookValue;
  /** The shop has a value of its own, above another: one that only the shop declares has none to go back to. */
  own: boolean;
  choices: { value: string; label: string }[];
  min: number | null;
  max: number | null;
  step: number;
  unit: string;
}

interface LookFile {
  settings?: unknown;
  listings?: Record<string, Record<string, unknown>>;
}

function read(text: string | null): LookFile {
  return isReadable(text) ? (JSON.parse(text ?? '{}') as LookFile) : {};
}

/** Whether a `look.json` (null: there is none) can be read, so that a value may be put into it. */
export function isReadable(text: string | null): boolean {
  try {
    const given = JSON.parse(text ?? '{}') as unknown;
    return typeof given === 'object' && given !== null && !Array.isArray(given);
  } catch {
    return false;
  }
}

const entries = (text: string | null): z.output<typeof declared>[] => {
  const { settings } = read(text);
  return Array.isArray(settings)
    ? settings.flatMap((one: unknown) => {
        const parsed = declared.safeParse(one);
        return parsed.success ? [parsed.data] : [];
      })
    : [];
};

/** The settings that some `look.json` declare together, the lowest first; `own` is the shop's, which may say values alone. */
export function settingsOf(below: readonly (string | null)[], own: string | null): Setting[] {
  const settings = new Map<string, Setting>();
  const add = (text: string | null, isOwn: boolean): void => {
    for (const { name, type, label, group, value, choices, min, max, step, unit } of entries(text)) {
      const before = settings.get(name);
      const held = value === undefined ? (before?.value ?? null) : value;
      settings.set(name, {
        name,
        type: type ?? before?.type ?? 'text',
        label: label ?? before?.label ?? name,
        group: group ?? before?.group ?? '',
        value: held,
        below: isOwn ? (before?.value ?? null) : held,
        own: isOwn && before !== undefined && value !== undefined && held !== before.value,
        choices: choices
          ? choices.map((one) => (typeof one === 'string' ? { value: one, label: one } : one))
          : (before?.choices ?? []),
        min: min ?? before?.min ?? null,
        max: max ?? before?.max ?? null,
        step: step ?? before?.step ?? 1,
        unit: unit ?? before?.unit ?? '',
      });
    }
  };
  for (const text of below) add(text, false);
  add(own, true);
  return [...settings.values()];
}

/** A kind of listing with what holds for it; `own` names what the shop says itself. */
export interface ListingRow {
  kind: 'default' | ListingLook;
  values: Partial<Record<ListingKey, ListingValue>>;
  own: ListingKey[];
}

export type ListingKey = keyof ListingSettings & string;
export type ListingValue = ListingSettings[ListingKey];

/** Settings by kind of listing: those of `default` hold for what a kind does not say. */
export function listingRows(below: readonly (string | null)[], own: string | null): ListingRow[] {
  const texts = [...below, own].map((text) => read(text).listings ?? {});
  const mine = read(own).listings ?? {};
  const of = (kind: string): ListingRow['values'] => Object.assign({}, ...texts.map((one) => one[kind] ?? {}));
  return (['default', ...listingKinds] as const).map((kind) => ({
    kind,
    values: Object.assign({}, ...(kind === 'default' ? ['default'] : saidFor(kind)).map(of)),
    own: Object.keys(mine[kind] ?? {}) as ListingKey[],
  }));
}

const write = (file: LookFile): string => `${JSON.stringify(file, null, 2)}\n`;

/**
 * The shop's `look.json` (null: it has none) with a value of a setting; undefined takes the shop's away, and leaves what else
 * the shop declares of it.
 */
export function withSetting(own: string | null, name: string, value: LookValue | undefined): string {
  const file = read(own);
  const list = (Array.isArray(file.settings) ? file.settings : []) as { name?: unknown }[];
  const others = list.filter((one) => one?.name !== name);
  const before = list.find((one) => one?.name === name);
  const at = before ? list.indexOf(before) : list.length;
  const { value: _, ...rest } = (before ?? {}) as { name?: unknown; value?: unknown };
  if (value !== undefined) others.splice(at, 0, { ...before, name, value } as { name: string });
  else if (Object.keys(rest).some((key) => key !== 'name')) others.splice(at, 0, rest);
  return write({ ...file, settings: others });
}

/** The shop's `look.json` with a value of a kind of listing; undefined takes the shop's away. */
export function withListing(
  own: string | null,
  kind: string,
  key: ListingKey,
  value: ListingValue | undefined,
): string {
  const file = read(own);
  const row = { ...file.listings?.[kind] };
  if (value === undefined) delete row[key];
  else row[key] = value;
  const listings = { ...file.listings, [kind]: row };
  if (!Object.keys(row).length) delete listings[kind];
  return write({ settings: [], ...file, listings });
}
