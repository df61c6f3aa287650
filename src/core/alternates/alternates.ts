import { z } from 'zod';
import { pageKinds } from '../storefront/route';

/** An alternate: a template beside `default` in its kind's folder. */
const alternate = z.object({
  kind: z.enum(pageKinds),
  /** File name in the kind's folder, without `.html`. */
  name: z.string().regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/),
  label: z.string().min(1).max(80),
  note: z.string().max(500).default(''),
  /** Product types that it is meant for; none: all. */
  types: z.array(z.string()).default([]),
});

/** Gives an alternate to one subject. */
const pin = z.object({
  kind: z.enum(pageKinds).exclude(['not-found']),
  slug: z.string(),
  alternate: z.string(),
});

const file = z.object({ alternates: z.array(alternate).default([]), pins: z.array(pin).default([]) });

export type Alternate = z.output<typeof alternate>;
export type Pin = z.output<typeof pin>;
export type Alternates = z.output<typeof file>;

export const noAlternates: Alternates = { alternates: [], pins: [] };

/** Reads `alternates.json`. What is wrong is said by its path in the file, and left out; the rest serves. */
export function readAlternates(text: string | null): { alternates: Alternates; wrong: string[] } {
  if (text === null) return { alternates: noAlternates, wrong: [] };
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch (error) {
    return { alternates: noAlternates, wrong: [`alternates.json is no JSON: ${(error as Error).message}`] };
  }
  const wrong: string[] = [];
  const given = (typeof read === 'object' && read !== null ? read : {}) as Record<string, unknown>;
  const listOf = <T>(name: 'alternates' | 'pins', schema: z.ZodType<T>): T[] => {
    const items = given[name] ?? [];
    if (!Array.isArray(items)) {
      wrong.push(`“${name}” is no list`);
      return [];
    }
    return items.flatMap((item: unknown, at) => {
      const result = schema.safeParse(item);
      if (result.success) return [result.data];
      const issue = result.error.issues[0];
      wrong.push(
        `${name}[${at}]${issue?.path.length ? `.${issue.path.join('.')}` : ''}: ${issue?.message ?? 'cannot be read'}`,
      );
      return [];
    });
  };
  return { alternates: { alternates: listOf('alternates', alternate), pins: listOf('pins', pin) }, wrong };
}

export function writeAlternates(alternates: Alternates): string {
  return `${JSON.stringify(file.parse(alternates), null, 2)}\n`;
}

/** Which template serves a subject, and why. */
export interface Choice {
  /** Name of the template: `product/default`. */
  template: string;
  because: 'tried' | 'pin' | 'default';
  /** The pin whose alternate has no file: `default` serves instead. */
  broken: string | null;
}

/**
 * The template for a subject: the one tried, else its pin's, else `default`. An alternate without a file is passed over.
 * `exists` says whether the theme has a template of that name.
 */
export function chooseTemplate(
  { pins }: Alternates,
  subject: { kind: string; slug: string },
  exists: (template: string) => boolean,
  tried: string | null = null,
): Choice {
  const inKind = (name: string) => `${subject.kind}/${name}`;
  if (tried !== null && exists(inKind(tried))) return { template: inKind(tried), because: 'tried', broken: null };
  const found = pins.find((one) => one.kind === subject.kind && one.slug === subject.slug);
  if (!found) return { template: inKind('default'), because: 'default', broken: null };
  if (exists(inKind(found.alternate))) return { template: inKind(found.alternate), because: 'pin', broken: null };
  return { template: inKind('default'), because: 'default', broken: inKind(found.alternate) };
}
