import { booleanAttributes } from '../1-parse/names';

/**
 * What an attribute does with a value, settled from names alone when a template is compiled.
 * `plain` escaped text; `words` prints true and false as words; `boolean` is there or not; `alt` is never dropped; `class` folds; `address` and
 * `candidates` are encoded and judged; `loading` besides is held to known hosts; `style` takes plain values;
 * `script` and `fixed` take none.
 */
export type AttributePlace =
  'plain' | 'words' | 'boolean' | 'alt' | 'class' | 'address' | 'loading' | 'candidates' | 'style' | 'script' | 'fixed';

const set = (names: string) => new Set(names.split(' '));

const addresses = set('href src action formaction poster cite data ping background manifest xlink:href');
const loading = set(
  'script:src script:href script:xlink:href link:href base:href iframe:src frame:src embed:src object:data',
);
const fixed = set(
  'link:rel script:type script:integrity meta:http-equiv iframe:sandbox iframe:allow annotation-xml:encoding',
);
const animations = set('animate set animatetransform animatemotion animatecolor');
const animationFixed = set('attributename values from to by href xlink:href');
const worded = set('contenteditable draggable spellcheck');

/** `refreshes`: the element is a meta with http-equiv, whose content is written out too. */
export function attributePlace(element: string, attribute: string, refreshes = false): AttributePlace {
  const tag = element.toLowerCase();
  const name = attribute.toLowerCase();
  const both = `${tag}:${name}`;
  if (name.startsWith('on') || name === 'srcdoc') return 'script';
  if (fixed.has(both) || (animations.has(tag) && animationFixed.has(name))) return 'fixed';
  if (tag === 'meta' && name === 'content' && refreshes) return 'fixed';
  if (loading.has(both)) return 'loading';
  if (addresses.has(name)) return 'address';
  if (name === 'srcset' || name === 'imagesrcset') return 'candidates';
  if (name === 'style') return 'style';
  if (name === 'class') return 'class';
  if (name === 'alt') return 'alt';
  if (name.startsWith('aria-') || name.startsWith('data-') || worded.has(name)) return 'words';
  return booleanAttributes.has(name) ? 'boolean' : 'plain';
}
