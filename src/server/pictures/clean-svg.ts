import sanitizeHtml from 'sanitize-html';

/** Elements of SVG 1.1 and 2 that draw; none that runs, loads, links or holds other markup. */
const shapes =
  `svg g defs symbol use title desc metadata switch path rect circle ellipse line polyline polygon text tspan textPath image
  linearGradient radialGradient stop pattern clipPath mask marker filter feBlend feColorMatrix feComponentTransfer feComposite
  feConvolveMatrix feDiffuseLighting feDisplacementMap feDistantLight feDropShadow feFlood feFuncA feFuncB feFuncG feFuncR
  feGaussianBlur feMerge feMergeNode feMorphology feOffset fePointLight feSpecularLighting feSpotLight feTile feTurbulence
  animate animateTransform animateMotion mpath`.split(/\s+/);

/** What a drawing shows of another: a part of itself, or a picture that it carries. */
const own = /^(?:#|data:image\/(?:png|jpeg|gif|webp);base64,)/i;
/** A paint or filter by address that is no part of the drawing itself. */
const elsewhere = /url\(\s*['"]?(?!#|['"]?\s*\))|@import|expression\s*\(|-moz-binding|image-set\s*\(/i;

/** A drawing that cannot be taken, with the reason. */
export class BrokenDrawing extends Error {
  override readonly name = 'BrokenDrawing';
}

export interface CleanDrawing {
  text: string;
  width: number | null;
  height: number | null;
}

/**
 * An SVG with all that draws and nothing else: no script, link, handler or foreign markup, nothing that loads from elsewhere. Rules of its
 * style sheets are written to the elements that they are for. Its size in CSS pixels is as its root says it.
 *
 * @throws BrokenDrawing for one that is not well-formed, declares entities, or has no <svg> at its root
 */
export async function cleanSvg(text: string): Promise<CleanDrawing> {
  if (/<!ENTITY/i.test(text))
    throw new BrokenDrawing('it declares entities, by which a small file can grow without end');
  const { optimize } = await import('svgo');
  let inlined: string;
  try {
    inlined = optimize(text.replace(/^\ufeff/, ''), {
      js2svg: { useShortTags: true },
      plugins: [
        'removeDoctype',
        'removeXMLProcInst',
        'removeComments',
        { name: 'inlineStyles', params: { onlyMatchedOnce: false } },
      ],
    }).data;
  } catch (error) {
    const [reason = ''] = (error as Error).message.split('\n');
    throw new BrokenDrawing(`it is not well-formed SVG (${reason.replace(/^SvgoParserError: /, '')})`);
  }
  if (!/^\s*<svg[\s>]/.test(inlined)) throw new BrokenDrawing('its root is no <svg>');
  let root: Record<string, string> | null = null;
  const namespace = 'http://www.w3.org/2000/svg';
  const cleaned = sanitizeHtml(inlined, {
    ...reading,
    allowedTags: shapes,
    // Nothing of these but what they hold is not text of the drawing.
    nonTextTags: [
      'script',
      'style',
      'foreignObject',
      'iframe',
      'audio',
      'video',
      'canvas',
      'handler',
      'listener',
      'set',
    ],
    transformTags: {
      '*': (tagName, attributes) => {
        const first = tagName === 'svg' && !root;
        const kept = attributesOf(tagName, first ? { ...attributes, xmlns: namespace } : attributes);
        if (first) root = kept;
        return { tagName, attribs: kept };
      },
    },
    exclusiveFilter: ({ tag, attribs }) =>
      tag.startsWith('animate') && /href|^on|^style$/i.test(attribs.attributeName ?? ''),
  });
  // One that has nothing to take out stays as it was drawn, to the letter.
  const untouched = cleaned === sanitizeHtml(inlined, { ...reading, allowedTags: false, allowVulnerableTags: true });
  return { text: untouched ? text : cleaned.trim(), ...sizeOf(root ?? {}) };
}

/** How SVG is read: as XML, every attribute kept unless it is said otherwise. */
const reading: sanitizeHtml.IOptions = {
  parser: { xmlMode: true, decodeEntities: true, lowerCaseTags: false, lowerCaseAttributeNames: false },
  allowedAttributes: false,
  selfClosing: [],
  parseStyleAttributes: false,
  // Addresses are held to what is the drawing's own (attributesOf).
  allowedSchemesAppliedToAttributes: [],
};

/** What an element keeps of its attributes. */
function attributesOf(tag: string, attributes: Record<string, string>): Record<string, string> {
  return Object.fromEntries(
    Object.entries(attributes).filter(([name, value]) => {
      if (name === 'xmlns') return value === 'http://www.w3.org/2000/svg';
      if (/^on/i.test(name)) return false;
      if (/(?:^|:)(?:href|src|base)$/i.test(name))
        return own.test(value.trim()) && (tag === 'image' || value.trim().startsWith('#'));
      return !elsewhere.test(plainCss(value));
    }),
  );
}

/** A value without the escapes and comments by which CSS can be written so that it is not recognised (CSS Syntax 3, 4.3.7). */
const plainCss = (value: string): string =>
  value
    .replace(/\/\*[\s\S]*?\*\//g, '')
    .replace(/\\([0-9a-f]{1,6})\s?/gi, (_, code: string) =>
      String.fromCodePoint(Math.min(parseInt(code, 16), 0x10ffff)),
    )
    .replace(/\\(.)/g, '$1');

/** CSS pixels of a length with an absolute unit (CSS Values 4, 6.2); null for another. */
const unit: Record<string, number> = { '': 1, px: 1, pt: 4 / 3, pc: 16, mm: 96 / 25.4, cm: 96 / 2.54, in: 96 };
function pixels(length: string | undefined): number | null {
  const [, number = '', of = ''] = /^\s*([\d.]+)\s*([a-z]*)\s*$/i.exec(length ?? '') ?? [];
  const factor = unit[of.toLowerCase()];
  const found = factor === undefined ? 0 : Math.round(Number(number) * factor);
  return found > 0 ? found : null;
}

/** The size that a root says: its width and height, else its view box's. */
function sizeOf({ width, height, viewBox = '' }: Record<string, string>): {
  width: number | null;
  height: number | null;
} {
  const [, , across, down] = viewBox.trim().split(/[\s,]+/);
  const [w, h] = [pixels(width), pixels(height)];
  const [boxWidth, boxHeight] = [pixels(across), pixels(down)];
  if (w && h) return { width: w, height: h };
  if (!boxWidth || !boxHeight) return { width: w, height: h };
  if (w) return { width: w, height: Math.round((w * boxHeight) / boxWidth) };
  if (h) return { width: Math.round((h * boxWidth) / boxHeight), height: h };
  return { width: boxWidth, height: boxHeight };
}
