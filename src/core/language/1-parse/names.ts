const set = (names: string) => new Set(names.split(' '));

/** Elements of HTML that have no content and no end tag (HTML standard, 13.1.2). */
export const voidElements = set('area base br col embed hr img input link meta param source track wbr');

/** Elements whose content a browser reads as text, and in which the language prints values. */
export const textElements = set('title textarea option noscript iframe xmp noembed noframes');

/** Of those, the ones whose content holds no elements at all, up to their end tag. */
export const flatElements = set('title textarea iframe xmp noembed noframes');

/** Elements whose content is never interpolated. */
export const rawElements = set('script style');

/** The language's own elements. */
export const ownElements = set('draw gap fill shelf takes ask group amend');

/** Own elements that stand only inside <amend>. */
export const amendElements = set('before after prepend append replace remove move kept');

/** Own elements without an end tag. */
export const ownVoid = set('takes move remove kept');

/** Where HTML begins again inside SVG and MathML (HTML standard, 13.2.6: integration points). */
export const integrationPoints = set('foreignobject desc title annotation-xml mi mo mn ms mtext');

export const directiveNames = set(
  'do:when do:or-when do:otherwise do:each do:let do:wrap-when do:attributes do:once do:literal do:mark do:json',
);
