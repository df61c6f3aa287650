/** Terms of schema.org's vocabulary, as addresses have them. */
const vocabulary = 'https://schema.org/';

/** A term as a value: `https://schema.org/InStock`. */
export const schemaTerm = (term: string): string => vocabulary + term;

/** A term without its vocabulary, whichever scheme it is written with; null for one of another. */
export const termOf = (iri: string): string | null => /^https?:\/\/schema\.org\/(\w+)$/.exec(iri)?.[1] ?? null;

/** Properties of a Product that tell variants apart, each with the words by which shops call such an option. */
const properties: Record<string, RegExp> = {
  color: /^(?:colou?r|farbe|couleur|colore|kleur|kolor|cor)$/,
  size: /^(?:size|grosse|taille|talla|taglia|maat|tamanho)$/,
  material: /^(?:material|materiau|matiere|materiale|materiaal)$/,
  pattern: /^(?:pattern|muster|motif|motivo|patroon)$/,
};

/** The property that an option is, by its slug; null: it has none. */
export const optionProperty = (slug: string): string | null =>
  Object.keys(properties).find((property) => properties[property]?.test(slug)) ?? null;

/** Properties that may be options. */
export const optionProperties: readonly string[] = Object.keys(properties);
