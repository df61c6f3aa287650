'use client';
import { AutoComplete } from 'antd';
import { useStore } from 'zustand';
import { readTarget, targetGroups } from '@/core/exchange';
import type { Importing } from './import-store';

const options = [
  ...targetGroups.map(({ label, targets }) => ({
    label,
    options: targets.map(({ target, label: says }) => ({ value: target, label: says })),
  })),
  {
    label: 'With a name of your own',
    options: [
      { value: 'option:', label: 'An option: option:colour' },
      { value: 'field:', label: 'A custom field: field:lead_time' },
      { value: 'attribute:', label: 'An attribute: attribute:Height' },
    ],
  },
];

const found = {
  heading: 'as before, or its own heading',
  word: 'by its heading',
  values: 'by its values',
  nothing: 'not recognised',
};

/** Whether what is typed is in what a choice says. */
const fits = (text: string, choice: object | undefined): boolean =>
  JSON.stringify(choice ?? {})
    .toLowerCase()
    .includes(text.toLowerCase());

/** The columns of a table with their first values, and what each is taken for. */
export function Columns({ importing }: { importing: Importing }) {
  const { look, columns } = useStore(importing.state);
  const table = look?.table;
  if (!table) return null;
  return (
    <div className="import-columns">
      <table>
        <caption>
          What each column is taken for. Empty: it is left out. For a further language write it after @, as in name@fr.
        </caption>
        <thead>
          <tr>
            <th scope="col">Column</th>
            <th scope="col">Its first values</th>
            <th scope="col">Is taken for</th>
          </tr>
        </thead>
        <tbody>
          {table.columns.map(({ heading, by, target: guessed }, at) => {
            const target = columns[heading] ?? '';
            const wrong = target !== '' && !readTarget(target);
            return (
              <tr key={`${at} ${heading}`} data-out={target === '' || undefined}>
                <th scope="row">{heading || <em>no heading</em>}</th>
                <td>
                  {table.sample
                    .map((row) => row[at] ?? '')
                    .filter(Boolean)
                    .slice(0, 3)
                    .map((value, place) => (
                      <span key={place} className="import-value">
                        {value.length > 40 ? `${value.slice(0, 40)}…` : value}
                      </span>
                    ))}
                </td>
                <td>
                  <AutoComplete
                    value={target}
                    options={options}
                    aria-label={`What “${heading}” is taken for`}
                    status={wrong ? 'error' : ''}
                    placeholder="left out"
                    allowClear
                    popupMatchSelectWidth={false}
                    showSearch={{ filterOption: (text, option) => text === target || fits(text, option) }}
                    onChange={(value: string | undefined) => importing.take(heading, value || null)}
                  />
                  <small className="quiet">
                    {wrong
                      ? 'There is nothing of that name to be.'
                      : target === (guessed ?? '')
                        ? found[by]
                        : 'as you said'}
                  </small>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
