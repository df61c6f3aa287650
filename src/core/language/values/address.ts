import { decodeHTMLAttribute } from 'entities';
import { escapeText, wellFormed } from './escape';

export const blockedAddress = 'about:blank#blocked';

/** A written piece of an attribute, or a value's text. */
export type Piece = { written: string } | { value: string };

const allowed = /^(?:https?|mailto|tel|sms):$/i;
/** What has to be encoded or escaped in an address, or may begin one of another site. */
const unclean = /[^\w\-.~/?=#@,;!$()*+]/;

/** An address that is one value: the common case, quick for what is plainly a path of this site. */
export function wholeAddress(text: string, loads: Loads | null, reporter: Reporter): string {
  const path = text.charCodeAt(0) !== 47 || text.charCodeAt(1) !== 47;
  if (path && text !== '' && !unclean.test(text)) return text;
  return joinedAddress([{ value: text }], loads, reporter);
}

/** Who is told of what a place refused. */
export interface Reporter {
  blocked(address: string): void;
  refusedStyle(value: string): void;
}

/** What a page loads as code or frame is held to this site's own paths and to these hosts. */
export interface Loads {
  hosts: ReadonlySet<string>;
}

/**
 * An address joined from what the template wrote (already in HTML's writing) and values, each encoded for its position;
 * `about:blank#blocked` when the whole has a scheme, or for `loads` a host, that is not allowed. The result is escaped.
 */
export function joinedAddress(pieces: Piece[], loads: Loads | null, reporter: Reporter | null): string {
  let out = '';
  let judged = '';
  for (const piece of pieces) {
    if ('written' in piece) {
      out += piece.written;
      judged += decodeHTMLAttribute(piece.written);
      continue;
    }
    const encoded = encodeAt(judged, wellFormed(piece.value));
    // Judged as given at the start (a colon there makes a scheme), and as encoded behind it.
    judged += judged.trim() === '' ? piece.value : encoded;
    out += escapeText(encoded);
  }
  const address = judged.replace(/[\u0000-\u0020\u007f-\u009f]/g, '');
  const scheme = /^[a-zA-Z][a-zA-Z0-9+.-]*:/.exec(address)?.[0];
  if (!scheme || allowed.test(scheme)) {
    if (!loads || loadable(address, pieces, loads)) return out;
  }
  reporter?.blocked(judged);
  return blockedAddress;
}

/** A value's text, encoded for where it stands behind what came `before` it. */
function encodeAt(before: string, value: string): string {
  if (before.trim() === '') return encodeWhole(value);
  if (/[?#]/.test(before)) return encodeComponent(value);
  if (/^\s*(?:tel|sms|mailto):$/i.test(before))
    return encodeComponent(value).replace(/%(?:2B|40|2C)/g, decodeURIComponent);
  const path = encodeComponent(value).replace(/%2F/g, '/');
  return before.trim() === '/' ? path.replace(/^\/+/, '') : path;
}

/** Characters that a URL may not hold are percent-encoded; the rest, its own escapes too, stay (URL standard). */
function encodeWhole(value: string): string {
  const cut = value.replace(/^[\u0000-\u0020]+|[\u0000-\u0020]+$/g, '').replace(/[\t\n\r]/g, '');
  return cut
    .replace(/[^A-Za-z0-9\-._~:/?#[\]@!$&'()*+,;=%]+/gu, encodeURIComponent)
    .replace(/%(?![0-9A-Fa-f]{2})/g, '%25');
}

function encodeComponent(value: string): string {
  return encodeURIComponent(value).replace(/'/g, '%27');
}

function loadable(address: string, pieces: Piece[], loads: Loads): boolean {
  let url: URL;
  try {
    url = new URL(address, 'https://this-site.invalid/');
  } catch {
    return false;
  }
  if (url.host === 'this-site.invalid' || loads.hosts.has(url.host))
    return url.protocol === 'https:' || url.protocol === 'http:';
  const first = pieces[0];
  const host =
    first && 'written' in first
      ? /^\s*(?:https?:)?\/\/([^/?#\\@]+)[/?#]/i.exec(decodeHTMLAttribute(first.written))
      : null;
  return host !== null && (host[1] as string).toLowerCase() === url.host;
}

/**
 * `srcset`: each candidate an address, its commas encoded; values behind the white space of a candidate are descriptors
 * (`2x`, `640w`), and what is none is left out.
 */
export function candidates(pieces: Piece[], reporter: Reporter): string {
  const groups: Piece[][] = [[]];
  for (const piece of pieces) {
    if ('value' in piece) {
      (groups[groups.length - 1] as Piece[]).push(piece);
      continue;
    }
    const [first = '', ...rest] = piece.written.split(',');
    (groups[groups.length - 1] as Piece[]).push({ written: first });
    for (const written of rest) groups.push([{ written }]);
  }
  return groups.map((group) => candidate(group, reporter)).join(',');
}

function candidate(pieces: Piece[], reporter: Reporter): string {
  let lead = '';
  const address: Piece[] = [];
  let tail = '';
  let inTail = false;
  for (const piece of pieces) {
    if ('value' in piece) {
      if (!inTail) address.push({ value: piece.value.trim() });
      else if (/^\d+(?:\.\d+)?[wxh]?$/.test(piece.value)) tail += piece.value;
      continue;
    }
    let { written } = piece;
    if (!address.length) {
      const start = written.length - written.trimStart().length;
      lead += written.slice(0, start);
      written = written.slice(start);
    }
    const space = inTail ? 0 : written.search(/\s/);
    if (!inTail && space < 0) {
      if (written) address.push({ written });
      continue;
    }
    if (!inTail && space > 0) address.push({ written: written.slice(0, space) });
    inTail = true;
    tail += written.slice(space);
  }
  if (!address.length) return lead + tail;
  const joined = joinedAddress(address, null, reporter);
  return lead + (address.some((piece) => 'value' in piece) ? joined.replace(/,/g, '%2C') : joined) + tail;
}
