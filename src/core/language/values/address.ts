import { decodeHTMLAttribute } from 'entities';
import { escapeText, wellFormed } from './escape';

export const blockedAddress = 'about:blank#blocked';

/** A written piece of an attribute, in HTML's writing, or a value's text. */
export type Piece = { written: string } | { value: string };

/** What every theme may link to; `about.json` may name more (`schemes`). */
export const linkSchemes: ReadonlySet<string> = new Set(['http', 'https', 'mailto', 'tel', 'sms']);

/** Schemes that run code, or read files of whoever looks: no theme can allow them. */
export const forbiddenSchemes: ReadonlySet<string> = new Set(
  'javascript vbscript data blob file filesystem about view-source'.split(' '),
);

/** What has to be encoded or escaped in an address, or may begin one of another site. */
const unclean = /[^\w\-.~/?=#@,;!$()*+]/;

/** An address that is one value: the common case, quick for what is plainly a path of this site. */
export function wholeAddress(text: string, loads: Loads | null, reporter: Reporter): string {
  const path = text.charCodeAt(0) !== 47 || text.charCodeAt(1) !== 47;
  if (path && text !== '' && !unclean.test(text)) return text;
  return joinedAddress([{ value: text }], loads, reporter);
}

/** Who is told what a place refused, and knows what the theme allows besides. */
export interface Reporter {
  blocked(address: string): void;
  refusedStyle(value: string): void;
  /** Schemes that about.json names, in small letters. */
  schemes?: ReadonlySet<string>;
}

/** What a page loads as code or frame is held to this site's own paths and to these hosts. */
export interface Loads {
  hosts: ReadonlySet<string>;
}

/**
 * An address joined from what the template wrote and values, each encoded for its position; `about:blank#blocked` when the
 * whole, read as a browser reads the printed bytes, has a scheme, or for `loads` a host, that is not allowed. The result is
 * escaped.
 */
export function joinedAddress(pieces: readonly Piece[], loads: Loads | null, reporter: Reporter | null): string {
  let out = '';
  let before = '';
  for (const piece of pieces) {
    if ('written' in piece) {
      out += piece.written;
      before += decodeHTMLAttribute(piece.written);
      continue;
    }
    const encoded = encodeAt(before, wellFormed(piece.value));
    before += encoded;
    out += escapeText(encoded);
  }
  const read = decodeHTMLAttribute(out);
  const slashes = slashesToTake(read, pieces);
  if (slashes > 0) return joinedAddress([{ value: read.slice(slashes) }], loads, reporter);
  // Judged with a value at the start as it was given, too: a colon there makes a scheme.
  const first = pieces[0];
  const given = first && 'value' in first ? first.value : '';
  if (allowed(read, reporter) && allowed(given, reporter) && (!loads || loadable(read, pieces, loads))) return out;
  reporter?.blocked(given === '' ? read : given);
  return blockedAddress;
}

/** What the URL Standard takes out of an address before it reads it (4.4), and other controls. */
const stripped = (address: string): string => address.replace(/[\u0000-\u0020\u007f-\u009f]/g, '');

/** The scheme of an address as a browser finds it, in small letters; null for one without. */
export function schemeOf(address: string): string | null {
  return /^([a-zA-Z][a-zA-Z0-9+.-]*):/.exec(stripped(address))?.[1]?.toLowerCase() ?? null;
}

function allowed(address: string, reporter: Reporter | null): boolean {
  const scheme = schemeOf(address);
  if (scheme === null || linkSchemes.has(scheme)) return true;
  return !forbiddenSchemes.has(scheme) && (reporter?.schemes?.has(scheme) ?? false);
}

/**
 * How much to take from the start of an address so that one slash stays: where two that no one piece wrote would make what
 * follows a host. 0 where there is nothing to take.
 */
function slashesToTake(read: string, pieces: readonly Piece[]): number {
  const lead = /^[\u0000-\u0020]*[/\\][/\\\t\n\r]*[/\\]/.exec(read)?.[0];
  if (lead === undefined) return 0;
  const [first] = pieces;
  const own = first && ('written' in first ? decodeHTMLAttribute(first.written) : first.value);
  if (own !== undefined && /^[\u0000-\u0020]*[/\\][\t\n\r]*[/\\]/.test(own)) return 0;
  return lead.length - 1;
}

/** A value's text, encoded for where it stands after what came `before` it. */
function encodeAt(before: string, value: string): string {
  const plain = stripped(before);
  if (plain === '') return encodeWhole(value);
  if (/[?#]/.test(plain)) return encodeComponent(value);
  if (/^(?:tel|sms|mailto):$/i.test(plain)) return encodeComponent(value).replace(/%(?:2B|40|2C)/g, decodeURIComponent);
  const path = encodeComponent(value).replace(/%2F/g, '/');
  return /^[/\\]+$/.test(plain) ? path.replace(/^\/+/, '') : path;
}

/** Characters that a URL may not hold are percent-encoded; the rest, its own escapes too, stay (URL standard). */
function encodeWhole(value: string): string {
  const cut = value.replace(/^[\u0000-\u0020]+/, '').replace(/[\t\n\r]/g, '');
  return cut
    .slice(0, lastVisible(cut) + 1)
    .replace(/[^A-Za-z0-9\-._~:/?#[\]@!$&'()*+,;=%]+/gu, encodeURIComponent)
    .replace(/%(?![0-9A-Fa-f]{2})/g, '%25');
}

/** Index of the last character that is neither a control nor a space; a loop, since a pattern would look again from every space. */
function lastVisible(text: string): number {
  let at = text.length - 1;
  while (at >= 0 && text.charCodeAt(at) <= 32) at--;
  return at;
}

function encodeComponent(value: string): string {
  return encodeURIComponent(value).replace(/'/g, '%27');
}

/** This site, by either scheme: an address such as `https:x` has a host by one of them only. */
const bases = ['http://a.this-site.invalid/', 'https://b.this-site.invalid/'].map((base) => new URL(base));

function loadable(read: string, pieces: readonly Piece[], loads: Loads): boolean {
  const written = writtenHost(pieces);
  return bases.every((base) => {
    let url: URL;
    try {
      url = new URL(read, base);
    } catch {
      return false;
    }
    if (url.protocol !== 'https:' && url.protocol !== 'http:') return false;
    return url.host === base.host || loads.hosts.has(url.host) || url.host === written;
  });
}

/** The host that the template itself writes at the start of an address, up to the sign that ends it. */
function writtenHost(pieces: readonly Piece[]): string | null {
  const [first] = pieces;
  if (!first || !('written' in first)) return null;
  const host = /^(?:https?:)?\/\/([^/?#\\@]+)[/?#]/i.exec(stripped(decodeHTMLAttribute(first.written)))?.[1];
  return host?.toLowerCase() ?? null;
}

/** The schemes that are written out at the start of an address before a value, and of each candidate of a `srcset`. */
export function writtenSchemes(written: string, candidates: boolean): string[] {
  const read = decodeHTMLAttribute(written);
  const parts = candidates ? read.split(/,(?=\s)|\s+/) : [read];
  return parts.flatMap((part) => schemeOf(part.replace(/^,+/, '')) ?? []);
}

/** One candidate of a `srcset`: what stands before its address, the address, and its descriptor. */
interface Candidate {
  lead: string;
  address: Piece[];
  tail: string;
}

/**
 * `srcset`: each candidate an address, its values' commas encoded; values after the white space of a candidate are descriptors
 * (`2x`, `640w`), and what is none is left out. Candidates are cut as the HTML standard cuts them (4.8.4.2.2): an address ends
 * at white space, and a comma ends a candidate only there or after it.
 */
export function candidates(pieces: readonly Piece[], reporter: Reporter): string {
  const all: Candidate[] = [{ lead: '', address: [], tail: '' }];
  let state: 'lead' | 'address' | 'tail' = 'lead';
  const last = () => all[all.length - 1] as Candidate;
  for (const piece of pieces) {
    if ('value' in piece) {
      if (state === 'tail') {
        if (/^\d+(?:\.\d+)?[wxh]?$/.test(piece.value)) last().tail += piece.value;
        continue;
      }
      last().address.push({ value: piece.value.trim() });
      state = 'address';
      continue;
    }
    for (const part of piece.written.match(/\s+|,+|[^\s,]+/g) ?? []) {
      const space = /^\s/.test(part);
      const comma = part.startsWith(',');
      if (state === 'tail' && comma) {
        all.push({ lead: part, address: [], tail: '' });
        state = 'lead';
      } else if (state === 'lead' && (space || comma)) last().lead += part;
      else if (state === 'address' && space) {
        state = 'tail';
        const before = last().address.at(-1);
        // Commas at an address's end are none of it: they end the candidate.
        const commas = before && 'written' in before ? (/,+$/.exec(before.written)?.[0] ?? '') : '';
        if (before && 'written' in before && commas) {
          before.written = before.written.slice(0, -commas.length);
          all.push({ lead: commas + part, address: [], tail: '' });
          state = 'lead';
        } else last().tail += part;
      } else if (state === 'tail') last().tail += part;
      else {
        const before = last().address.at(-1);
        if (before && 'written' in before) before.written += part;
        else last().address.push({ written: part });
        state = 'address';
      }
    }
  }
  return all.map((one) => one.lead + candidate(one.address, reporter) + one.tail).join('');
}

function candidate(address: readonly Piece[], reporter: Reporter): string {
  if (!address.length) return '';
  const joined = joinedAddress(address, null, reporter);
  return address.some((piece) => 'value' in piece) ? joined.replace(/,/g, '%2C') : joined;
}
