'use client';
import { Checkbox, Input, Segmented } from 'antd';
import type { ArrangeAnswer, PieceItem } from '@/contract/arrange';
import { type Placed, placementOfShelf } from '@/core/theme';
import type { ArrangeStore } from './arrange-store';
import { HoldsWhere } from './HoldsWhere';
import { InputField } from './InputField';
import { keysOf, whereOf, type Where } from './where';

interface Props {
  draft: string;
  one: Placed;
  piece: PieceItem | undefined;
  answer: ArrangeAnswer;
  store: ArrangeStore;
}

const kinds: Record<string, string> = {
  home: 'first pages',
  product: 'products',
  category: 'categories',
  listing: 'listings',
  content: 'content pages',
  article: 'articles',
  articles: 'lists of articles',
  cart: 'carts',
};

/** Kinds of which there are many: rules can ask about them. */
const hasFacts: ReadonlySet<string> = new Set(['product', 'category', 'listing', 'content', 'article']);

/** What a piece takes, where it stands and when, as a form. */
export function PieceForm({ draft, one, piece, answer, store }: Props) {
  const where = whereOf(one, answer);
  const kind = answer.subject?.kind;
  const options: { value: Where; label: string }[] = [
    ...(answer.subject && kind !== 'home' ? [{ value: 'here' as const, label: `${answer.subject.name} only` }] : []),
    ...(kind ? [{ value: 'kind' as const, label: `all ${kinds[kind] ?? kind}` }] : []),
    { value: 'template', label: `template ${answer.template.split('/')[1]}` },
    { value: 'everywhere', label: placementOfShelf(one.shelf) ? 'wherever what holds it stands' : 'everywhere' },
    ...(where === 'condition' || (kind && hasFacts.has(kind))
      ? [{ value: 'condition' as const, label: 'where a condition holds' }]
      : []),
    ...(where === 'elsewhere' ? [{ value: 'elsewhere' as const, label: `${one.subject} only` }] : []),
  ];
  const dayField = (key: 'from' | 'to', label: string) => (
    <Input
      type="date"
      size="small"
      aria-label={label}
      value={one[key] ?? ''}
      onChange={({ target }) => store.set(one.id, { [key]: target.value || undefined })}
    />
  );
  return (
    <div className="piece-form" role="form" aria-label={piece?.label ?? one.piece}>
      {piece?.takes.map((take) => (
        <InputField
          key={take.name}
          take={take}
          value={one.inputs[take.name]}
          locales={answer.locales}
          colours={answer.colours}
          fields={answer.fields.filter(({ fits }) => fits.includes(`${one.piece} ${take.name}`))}
          onChange={(value) => store.setInput(one.id, take.name, value)}
        />
      ))}
      {piece && !piece.takes.length && <p className="quiet">There is nothing to fill in.</p>}
      <fieldset>
        <legend>Where and when</legend>
        <Segmented
          aria-label="Where it stands"
          size="small"
          options={options}
          value={where}
          onChange={(to: Where) => store.set(one.id, keysOf(to, answer))}
        />
        {one.when && one.kind && (
          <HoldsWhere draft={draft} kind={one.kind} when={one.when} onChange={(when) => store.set(one.id, { when })} />
        )}
        <div className="piece-days">
          from {dayField('from', 'First day')} to {dayField('to', 'Last day')}
          <Checkbox
            checked={one.yearly ?? false}
            disabled={!one.from || !one.to}
            onChange={({ target }) => store.set(one.id, { yearly: target.checked || undefined })}
          >
            every year
          </Checkbox>
        </div>
      </fieldset>
      <p className="quiet">
        Made by a developer as <code>{one.piece}</code>. What is required and empty keeps it away.
      </p>
    </div>
  );
}
