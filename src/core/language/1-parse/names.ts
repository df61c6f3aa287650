const set = (names: string) => new Set(names.split(' '));

/** Elements of HTML that have no content and no end tag (HTML standard, 13.1.2). */
export const voidElements = set('area base br col embed hr img input link meta param source track wbr');

/**
 * Elements whose end tag HTML lets be left out, each with the start tags that then end it (HTML standard, 13.1.2.4). Last
 * asks for the end tag, and knows where it belongs.
 */
export const endedBy: ReadonlyMap<string, ReadonlySet<string>> = new Map(
  Object.entries({
    li: 'li',
    dt: 'dt dd',
    dd: 'dt dd',
    p: 'address article aside blockquote details dialog div dl fieldset figcaption figure footer form h1 h2 h3 h4 h5 h6 header hgroup hr main menu nav ol p pre search section table ul',
    rt: 'rt rp',
    rp: 'rt rp',
    optgroup: 'optgroup hr',
    option: 'option optgroup hr',
    thead: 'tbody tfoot',
    tbody: 'tbody tfoot',
    tfoot: '',
    tr: 'tr tbody tfoot',
    td: 'td th tr tbody tfoot',
    th: 'td th tr tbody tfoot',
    colgroup: 'thead tbody tfoot tr',
    caption: 'colgroup thead tbody tfoot tr col',
  }).map(([name, ends]) => [name, set(ends)]),
);

/** Elements whose content a browser reads as text, and in which the language prints values. */
export const textElements = set('title textarea option noscript iframe xmp noembed noframes');

/** Of those, the ones whose content holds no elements at all, up to their end tag. */
export const flatElements = set('title textarea iframe xmp noembed noframes');

/** Elements whose content is never interpolated. */
export const rawElements = set('script style');

/** The language's own elements. */
export const ownElements = set('draw gap fill shelf takes placeable ask group amend');

/** Own elements that stand only inside <amend>. */
export const amendElements = set('before after prepend append replace remove move adjust kept');

/** Own elements without an end tag. */
export const ownVoid = set('takes placeable move remove adjust kept');

/**
 * Elements of SVG that HTML has none of the same name of (SVG 2, element index): a piece may begin with them, for an <svg>
 * that stands where it is drawn.
 */
export const svgParts = set(
  'g path rect circle ellipse line polyline polygon text tspan textpath use symbol defs desc metadata marker pattern mask clippath lineargradient radialgradient stop filter foreignobject switch view animate animatemotion animatetransform mpath set',
);

/** Attributes that are there or not, whatever they hold (HTML standard, the boolean attributes of its index; `hidden` once was one). */
export const booleanAttributes = set(
  'allowfullscreen async autofocus autoplay checked controls default defer disabled formnovalidate hidden inert ismap itemscope loop multiple muted nomodule novalidate open playsinline readonly required reversed selected shadowrootclonable shadowrootdelegatesfocus shadowrootserializable',
);

/** Where HTML begins again inside SVG and MathML (HTML standard, 13.2.6: integration points). */
export const integrationPoints = set('foreignobject desc title annotation-xml mi mo mn ms mtext');

export const directiveNames = set(
  'do:when do:or-when do:otherwise do:each do:let do:wrap-when do:attributes do:once do:as-written do:mark do:json',
);

/** Names that directives had before, with those that they have now. */
export const renamedDirectives: ReadonlyMap<string, string> = new Map([['do:literal', 'do:as-written']]);
