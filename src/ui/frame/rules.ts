import type { AskedRule, MatchedRule } from '@/contract/frame';

/** Which of these rules match an element or one of its ancestors, as the browser itself says; and how it came out. */
export function matchRules(
  element: Element | null,
  rules: AskedRule[],
  properties: string[],
): { rules: MatchedRule[]; computed: Record<string, string> } {
  const found: MatchedRule[] = [];
  const chain: Element[] = [];
  for (let at = element; at; at = at.parentElement) chain.push(at);
  rules.forEach(({ selectors, conditions }, rule) => {
    const holds = conditions.every(({ name, text }) => conditionHolds(name, text));
    chain.forEach((one, up) => {
      const matching = selectors.flatMap((selector, at) => (matches(one, selector) ? [at] : []));
      if (matching.length) found.push({ rule, selectors: matching, up, holds });
    });
  });
  const computed: Record<string, string> = {};
  if (element) {
    const style = getComputedStyle(element);
    for (const property of properties) computed[property] = style.getPropertyValue(property);
  }
  return { rules: found, computed };
}

function matches(element: Element, selector: string): boolean {
  try {
    // What stands for a state or a part of the element (`:hover`, `::before`) shapes the element too: it is listed with it.
    const plain = selector
      .replace(/::[\w-]+(?:\([^)]*\))?/g, '')
      .replace(/:(?:hover|active|focus|focus-visible|focus-within|visited|target)\b/g, '');
    return element.matches(plain.trim() || '*');
  } catch {
    return false;
  }
}

function conditionHolds(name: string, text: string): boolean {
  if (name === 'media') return window.matchMedia(text).matches;
  if (name === 'supports') return CSS.supports(text);
  return true;
}
