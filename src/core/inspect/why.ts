import type { Part, Place, PlaceTable } from './places';
import { countOf } from './trail';

/** How a condition came out on a page: how often each way, and what decided the first of each. */
export interface Outcome {
  place: Place;
  template: number;
  at: number;
  held: number;
  not: number;
  whyHeld: Reason | null;
  whyNot: Reason | null;
}

/** What decided: the part of the condition (null: the element before), and its value in words; of a comparison two. */
export interface Reason {
  part: Part | null;
  said: string;
  held: boolean;
  frame: number;
}

/** How often a field is empty over the catalogue. */
export interface Counted {
  empty: number;
  total: number;
}

/** What happened on a page at a line of a file. */
export interface LineFacts {
  /** How often an element that begins here was rendered; null where none begins. */
  rendered: number | null;
  outcomes: Outcome[];
  /** Numbers of items of the loops here, in order of the page. */
  loops: number[];
  /** Of what an amendment put into a part of another file that is not on the page: the condition of that part. */
  hidden: { file: string; layer: string; line: number; why: Reason } | null;
}

/** For each line of a file of a layer, what happened there on the page. */
export function linesOf(table: PlaceTable, file: string, layer: string | null): Map<number, LineFacts> {
  const lines = new Map<number, LineFacts>();
  const factsAt = (line: number): LineFacts => {
    let facts = lines.get(line);
    if (!facts) lines.set(line, (facts = { rendered: null, outcomes: [], loops: [], hidden: null }));
    return facts;
  };
  const outcomes = new Map<string, Outcome>();
  const drawn = new Set(table.templateOf);
  /** Lines of elements that are not on the page, with the condition around each. */
  const hidden: { at: Place; template: number; under: number }[] = [];
  const outcomeOf = (template: number, at: number): Outcome => {
    const key = `${template}.${at}`;
    let outcome = outcomes.get(key);
    if (!outcome) {
      const place = table.templates[template]?.places[at] as Place;
      outcomes.set(key, (outcome = { place, template, at, held: 0, not: 0, whyHeld: null, whyNot: null }));
    }
    return outcome;
  };
  table.templates.forEach(({ places }, template) => {
    if (!drawn.has(template)) return;
    places.forEach((place, at) => {
      const source = table.sources[place.source];
      if (source?.file !== file || (layer !== null && source.layer !== layer)) return;
      if (place.kind === 'element') {
        const facts = factsAt(place.line);
        const count = countOf(table, { template, place: at });
        facts.rendered = Math.max(facts.rendered ?? 0, count);
        for (let { under } = place; !count && under !== undefined; { under } = places[under] ?? {}) {
          outcomeOf(template, under);
          hidden.push({ at: place, template, under });
        }
      } else if (place.kind === 'condition') {
        factsAt(place.line).outcomes.push(outcomeOf(template, at));
      }
    });
  });
  for (let at = 0; at < table.conditions.length; at += 4) {
    const [frame, place, held, part] = table.conditions.slice(at, at + 4) as [number, number, number, number];
    const outcome = outcomes.get(`${table.templateOf[frame]}.${place}`);
    if (!outcome) continue;
    const parts = outcome.place.parts ?? [];
    const reason = { part: parts[part] ?? null, said: table.said[at / 4] ?? '', held: held === 1, frame };
    if (held) {
      outcome.held++;
      outcome.whyHeld ??= reason;
    } else {
      outcome.not++;
      outcome.whyNot ??= reason;
    }
  }
  for (const { at, template, under } of hidden) {
    const { place, held, whyNot } = outcomeOf(template, under);
    const facts = factsAt(at.line);
    const source = table.sources[place.source];
    // One of its own file says so where it stands.
    if (held || !whyNot || !source || place.source === at.source || facts.rendered || facts.hidden) continue;
    facts.hidden = { ...source, line: place.line, why: whyNot };
  }
  for (let at = 0; at < table.loops.length; at += 3) {
    const [frame, place, count] = table.loops.slice(at, at + 3) as [number, number, number];
    const loop = table.templates[table.templateOf[frame] as number]?.places[place];
    const source = loop && table.sources[loop.source];
    if (loop && source?.file === file && (layer === null || source.layer === layer))
      factsAt(loop.line).loops.push(count);
  }
  return lines;
}

const nouns: Record<string, [one: string, many: string]> = {
  Product: ['product', 'products'],
  Category: ['category', 'categories'],
  Content: ['content page', 'content pages'],
  Article: ['article', 'articles'],
};

/** Why a condition came out as it did, as a sentence. `counted`: how often its field is empty over the catalogue. */
export function sentenceOf({ part, said, held }: Reason, counted: Counted | null): string {
  if (!part)
    return held ? 'Nothing before it in its chain was rendered' : 'What stands before it in its chain was rendered';
  if (part.comparison) {
    const [left = '', right = ''] = said.split('\n');
    const sides = part.text.split(/\s(==|!=|<=|>=|<|>|not in|in)\s/);
    const asked = sides.length === 3 ? sides[0] : part.text;
    return `${part.text}: ${asked} is ${left}${right && right !== sides[2] ? `, the other side ${right}` : ''}`;
  }
  const empty = said === 'empty' || said.startsWith('an empty') || said === 'false';
  const noun = part.object ? nouns[part.object] : null;
  const of = noun ? ` on this ${noun[0]}` : '';
  const facts =
    counted && noun
      ? `; it has a value on ${(counted.total - counted.empty).toLocaleString('en')} of ${counted.total.toLocaleString('en')} ${noun[1]}`
      : '';
  return `${part.text} is ${empty && said !== 'false' ? 'empty' : said}${of}${facts}`;
}
