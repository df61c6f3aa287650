/**
 * Fonts that come with widely used systems, so that a style sheet may name them without a file: the generic families of CSS
 * Fonts, then names from memory of what systems and their office programs bring. A name that lacks here is a warning too many, no more.
 */
const names = `
serif, sans-serif, monospace, cursive, fantasy, math, system-ui, ui-serif, ui-sans-serif, ui-monospace, ui-rounded, emoji, fangsong,
-apple-system, blinkmacsystemfont, inherit, initial, unset, revert, revert-layer, caption, icon, menu, message-box, small-caption, status-bar,
american typewriter, andale mono, apple chancery, apple color emoji, apple sd gothic neo, arial, arial black, arial narrow, arial unicode ms,
avenir, avenir next, baskerville, big caslon, bitstream charter, bodoni 72, book antiqua, bookman old style, bradley hand, brush script mt,
calibri, cambria, cambria math, candara, cantarell, century gothic, century schoolbook, chalkboard, charter, comic sans ms, consolas, constantia,
copperplate, corbel, courier, courier new, dejavu sans, dejavu sans mono, dejavu serif, didot, droid sans, droid sans mono, droid serif,
ebrima, franklin gothic medium, futura, gabriola, garamond, geneva, georgia, gill sans, gill sans mt, goudy old style, helvetica,
helvetica neue, hiragino kaku gothic pro, hiragino mincho pro, hiragino sans, hoefler text, impact, iowan old style, leelawadee ui,
liberation mono, liberation sans, liberation serif, lucida bright, lucida console, lucida grande, lucida sans, lucida sans unicode,
malgun gothic, marker felt, meiryo, menlo, microsoft sans serif, microsoft yahei, monaco, ms gothic, ms mincho, new york, nimbus mono ps,
nimbus roman, nimbus sans, nirmala ui, noto color emoji, noto emoji, noto sans, noto sans cjk jp, noto sans cjk kr, noto sans cjk sc, noto sans cjk tc,
noto sans mono, noto serif, optima, oxygen, oxygen-sans, palatino, palatino linotype, papyrus, perpetua, pingfang hk, pingfang sc, pingfang tc,
roboto, roboto mono, rockwell, sans, seravek, sf mono, sf pro display, sf pro text, simsun, sitka text, source code pro, stencil, sylfaen, symbol,
tahoma, tex gyre heros, times, times new roman, trebuchet ms, ubuntu, ubuntu mono, urw gothic, urw palladio l, verdana, webdings, wingdings, yu gothic,
yu mincho, segoe print, segoe script, segoe ui, segoe ui emoji, segoe ui symbol, segoe ui variable, zapf chancery, zapfino
`;

const known = new Set(names.split(',').map((name) => name.trim()));

/** Whether many devices have a font of that name. */
export const isDeviceFont = (name: string): boolean => known.has(name.toLowerCase().replace(/\s+/g, ' '));
