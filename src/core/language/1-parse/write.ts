import { isName, type Argument, type Expression } from './expression';

/** How tightly each kind binds: what is looser inside something tighter needs brackets. */
const tightness: Record<Expression['kind'], number> = {
  filter: 0,
  choice: 1,
  or: 2,
  and: 3,
  not: 4,
  binary: 5,
  minus: 8,
  field: 9,
  item: 9,
  call: 9,
  name: 9,
  text: 9,
  number: 9,
  flag: 9,
  none: 9,
  list: 9,
  bad: 9,
};
const sums = new Set(['+', '-']);
const products = new Set(['*', '/', '%']);

const of = (expression: Expression): number => {
  if (expression.kind !== 'binary') return tightness[expression.kind];
  return products.has(expression.operator) ? 7 : sums.has(expression.operator) ? 6 : 5;
};

const quoted = (text: string): string =>
  `'${text.replace(/[\\']/g, '\\$&').replace(/\n/g, '\\n').replace(/\t/g, '\\t')}'`;

/** An expression as text. `instead` may give other text for a part of it; null leaves the part as it is. */
export function writeExpression(
  expression: Expression,
  instead: (part: Expression) => string | null = () => null,
): string {
  const given = instead(expression);
  if (given !== null) return given;
  const write = (part: Expression, least = 0): string => {
    const text = writeExpression(part, instead);
    return of(part) < least ? `(${text})` : text;
  };
  const args = (list: Argument[]) =>
    list
      .map(({ name, value }) =>
        name === null ? write(value) : `${isName(name) ? name : quoted(name)}: ${write(value)}`,
      )
      .join(', ');
  switch (expression.kind) {
    case 'text':
      return quoted(expression.value);
    case 'number':
    case 'flag':
      return String(expression.value);
    case 'none':
      return 'none';
    case 'bad':
      return '…';
    case 'list':
      return `[${expression.items.map((item) => write(item)).join(', ')}]`;
    case 'name':
      return expression.name;
    case 'field':
      return `${write(expression.of, 9)}.${expression.name}`;
    case 'item':
      return `${write(expression.of, 9)}[${write(expression.key)}]`;
    case 'call':
      return `${expression.name}(${args(expression.args)})`;
    case 'minus':
      return `-${write(expression.of, 8)}`;
    case 'not':
      return `not ${write(expression.of, 4)}`;
    case 'binary': {
      const own = of(expression);
      return `${write(expression.left, own)} ${expression.operator} ${write(expression.right, own + 1)}`;
    }
    case 'and':
      return `${write(expression.left, 3)} and ${write(expression.right, 4)}`;
    case 'or':
      return `${write(expression.left, 2)} or ${write(expression.right, 3)}`;
    case 'choice':
      return `${write(expression.test, 2)} ? ${write(expression.yes, 1)} : ${write(expression.no, 1)}`;
    case 'filter': {
      const named = expression.args.length ? `${expression.name}(${args(expression.args)})` : expression.name;
      return `${write(expression.of)} | ${named}`;
    }
  }
}
