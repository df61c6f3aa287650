'use client';
import { InputNumber, Select } from 'antd';
import type { LookAnswer } from '@/contract/layers';
import { withListing, type ListingKey, type ListingRow, type ListingValue } from '@/core/theme';
import { TileValues } from './TileValues';

const sorts = ['chosen', 'match', 'name', 'price', 'price-down', 'newest'];
const kindSays: Record<string, string> = {
  default: 'All that do not say otherwise',
  filtered: 'Any of which something is chosen',
  category_filtered: 'A category of which something is chosen; what it does not say, “filtered” says',
  related: 'Goods beside a product',
  articles: 'Articles',
};

interface Props {
  /** The shop's own `look.json`; null: it has none. */
  text: string | null;
  rows: readonly ListingRow[];
  options: LookAnswer['options'];
  onText: (text: string) => void;
}

/** How listings of each kind are shown, as a table; what the shop says itself stands out. */
export function ListingLooks({ text, rows, options, onText }: Props) {
  return (
    <fieldset>
      <legend>Listings</legend>
      <table className="look-listings">
        <thead>
          <tr>
            {['Kind', 'Columns', 'On a page', 'Order', 'View', 'A tile for each', 'Values'].map((head) => (
              <th key={head} scope="col">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ kind, values, own: mine }) => {
            const set = (key: ListingKey) => (value: ListingValue | undefined) =>
              onText(withListing(text, kind, key, value ?? undefined));
            const title = kind.replace('_', ', ');
            const named = (key: ListingKey) => `${key} of ${title} listings`;
            const mark = (key: ListingKey) => (mine.includes(key) ? { className: 'look-own' } : {});
            return (
              <tr key={kind}>
                <th scope="row" title={kindSays[kind]}>
                  {title}
                </th>
                {(
                  [
                    ['columns', 1, 12],
                    ['page_size', 1, 200],
                  ] as const
                ).map(([key, min, max]) => (
                  <td key={key}>
                    <InputNumber
                      size="small"
                      aria-label={named(key)}
                      min={min}
                      max={max}
                      precision={0}
                      value={values[key] as number}
                      onChange={set(key)}
                      {...mark(key)}
                    />
                  </td>
                ))}
                <td>
                  <Select
                    size="small"
                    aria-label={named('sort')}
                    value={(values.sort as string | null) ?? ''}
                    options={[{ value: '', label: 'usual' }, ...sorts.map((value) => ({ value, label: value }))]}
                    onChange={(value) => set('sort')(value || undefined)}
                    popupMatchSelectWidth={false}
                    {...mark('sort')}
                  />
                </td>
                <td>
                  <Select
                    size="small"
                    aria-label={named('view')}
                    value={(values.view as string) ?? 'grid'}
                    options={['grid', 'list'].map((value) => ({ value, label: value }))}
                    onChange={set('view')}
                    {...mark('view')}
                  />
                </td>
                <td>
                  <Select
                    size="small"
                    aria-label={named('split_by')}
                    value={(values.split_by as string | null) ?? ''}
                    options={[
                      { value: '', label: 'product' },
                      ...options.map(({ slug }) => ({ value: slug, label: slug })),
                    ]}
                    onChange={(value) => onText(withListing(text, kind, 'split_by', value || null))}
                    popupMatchSelectWidth={false}
                    {...mark('split_by')}
                  />
                </td>
                <td>
                  <TileValues
                    label={`values of ${title} listings`}
                    option={options.find(({ slug }) => slug === values.split_by) ?? null}
                    values={(values.values as string[] | undefined) ?? []}
                    ofProducts={(values.values_of as Record<string, string[]> | undefined) ?? {}}
                    pictures={(values.pictures as number | undefined) ?? 0}
                    own={mine.some((key) => ['values', 'values_of', 'pictures'].includes(key))}
                    onPictures={set('pictures')}
                    onValues={set('values')}
                    onProducts={set('values_of')}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </fieldset>
  );
}
