import { allExpressions, type Attribute, eachElement, type Expression, type Template } from '@/core/language';

const isInput = (one: string | Expression | undefined, input: string): boolean =>
  typeof one === 'object' && one.kind === 'name' && one.name === input;

const numberIn = (one: Expression | undefined): number => (one?.kind === 'number' ? one.value : 0);

/** A number that an attribute gives, written out or as `{1080}`; 0: another value, or none. */
function numberOf(attribute: Attribute | undefined, text: (from: number, to: number) => string): number {
  if (!attribute?.value) return 0;
  const [only, ...more] = attribute.parts ?? [text(attribute.value.from, attribute.value.to)];
  if (more.length || only === undefined) return 0;
  return typeof only === 'string' ? Number(only) || 0 : numberIn(only);
}

/**
 * The shape that a piece shows the picture of an input in, as width by height: of the draw that hands it on together with a width and a height, or of
 * `sized(width, height, crop)`. null: it is shown as it is, or in several shapes.
 */
export function shapeOf(template: Template, input: string): number | null {
  const shapes = new Set<number>();
  const note = (width: number, height: number) => {
    if (width > 0 && height > 0) shapes.add(width / height);
  };
  eachElement(template.children, ({ own, name, attributes, source }) => {
    if (!own || name !== 'draw') return;
    if (!attributes.some(({ parts }) => parts?.length === 1 && isInput(parts[0], input))) return;
    const [width, height] = ['width', 'height'].map((side) =>
      numberOf(
        attributes.find((one) => one.name === side),
        (from, to) => source.slice(from, to),
      ),
    ) as [number, number];
    note(width, height);
  });
  allExpressions(template.children, (one) => {
    if (one.kind !== 'filter' || one.name !== 'sized' || !isInput(one.of, input) || one.args.length < 3) return;
    note(numberIn(one.args[0]?.value), numberIn(one.args[1]?.value));
  });
  const [only, ...more] = shapes;
  return only !== undefined && !more.length ? only : null;
}
