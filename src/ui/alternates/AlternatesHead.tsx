'use client';
import { Button, Input, Select } from 'antd';
import type { AlternatesTarget } from '@/contract/alternates';

interface Props {
  item: AlternatesTarget;
  targets: AlternatesTarget[];
  today: string;
  on: string | null;
  onOn: (day: string | null) => void;
  onTarget: (key: string) => void;
}

/** Which kind of page, or which piece; and as of which day. */
export function AlternatesHead({ item, targets, today, on, onOn, onTarget }: Props) {
  return (
    <header className="alternates-head">
      <nav className="kinds" aria-label="Kinds of page, and pieces">
        {targets
          .filter((one) => one.piece === undefined || one.templates.length > 1 || one.key === item.key)
          .map((one) => (
            <button key={one.key} type="button" aria-pressed={one.key === item.key} onClick={() => onTarget(one.key)}>
              {one.key} <small>{one.templates.length}</small>
            </button>
          ))}
        <Select
          size="small"
          aria-label="Another piece"
          className="kinds-more"
          placeholder="a piece…"
          showSearch={{ optionFilterProp: 'label' }}
          value={null}
          popupMatchSelectWidth={220}
          options={targets
            .filter((one) => one.piece !== undefined && one.templates.length === 1)
            .map((one) => ({ value: one.key, label: one.key }))}
          onChange={(key: string | null) => key !== null && onTarget(key)}
        />
      </nav>
      <label className="as-of" title="Rules have days: see the draft as it will be">
        As of{' '}
        <Input
          type="date"
          size="small"
          value={on ?? today}
          onChange={(event) => onOn(event.target.value && event.target.value !== today ? event.target.value : null)}
        />
        {on !== null && (
          <Button size="small" type="text" onClick={() => onOn(null)}>
            Today
          </Button>
        )}
      </label>
    </header>
  );
}
