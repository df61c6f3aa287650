import type { AskedRule, Matched, MatchedRule } from '@/contract/frame';

/** Which of these rules match an element or one of its ancestors, as the browser itself says. */
export function matchRules(element: Element | null, rules: AskedRule[]): Matched {
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
  return { rules: found, element: element && describe(element), properties: customProperties() };
}

const describe = (element: Element) => ({
  name: element.tagName.toLowerCase(),
  classes: [...element.classList],
  around: element.parentElement ? [...element.parentElement.classList] : [],
});

/** Custom properties of the page's root: those of its own attribute first, then the sheets'. */
function customProperties(): Record<string, string> {
  const names = new Set<string>();
  for (const name of document.documentElement.style) if (name.startsWith('--')) names.add(name);
  for (const sheet of document.styleSheets) {
    try {
      for (const rule of sheet.cssRules)
        if (rule instanceof CSSStyleRule && /^(?::root|html)$/.test(rule.selectorText))
          for (const name of rule.style) if (name.startsWith('--')) names.add(name);
    } catch {
      // A sheet of another host keeps its rules to itself.
    }
  }
  const style = getComputedStyle(document.documentElement);
  return Object.fromEntries([...names].map((name) => [name, style.getPropertyValue(name).trim()]));
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
