'use client';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { AutoComplete, Button, ColorPicker, Input } from 'antd';
import { useId, useRef, useState } from 'react';
import { useWorkspace } from '@/ui/workspace';

const length = /^(-?(?:\d+\.?\d*|\.\d+))(px|rem|em|ex|ch|lh|vw|vh|%|pt|s|ms|deg|fr)?$/;
const colour = /^(?:#[0-9a-f]{3,8}|(?:rgb|hsl)a?\([^)]*\))$/i;
const colourProperty = /color|background|border|outline|shadow|fill|stroke/;

/** Custom properties of the design that fit a property: colours to colours, all else to all else. */
function offered(property: string, properties: Record<string, string>): { value: string; label: React.ReactNode }[] {
  const colours = colourProperty.test(property);
  return Object.entries(properties)
    .filter(([, value]) => colour.test(value) === colours)
    .map(([name, value]) => ({
      value: `var(${name})`,
      label: (
        <span className="style-offer">
          {colours && <i className="reach-colour" style={{ background: value }} />}
          {name} <small>{value}</small>
        </span>
      ),
    }));
}

/** What is wrong with a declaration as it is written; null: nothing, or it is not whole yet. */
function useWrong(property: string, value: string): string | null {
  const { language } = useWorkspace();
  const [name, text] = [property.trim(), value.trim()];
  const { data } = useQuery({
    queryKey: ['declaration', name, text],
    queryFn: () => language.ask('declaration', { property: name, value: text }),
    enabled: name !== '' && text !== '',
    placeholderData: keepPreviousData,
  });
  return name && text ? (data ?? null) : null;
}

function WrongDeclaration({ id, says }: { id: string; says: string | null }) {
  return (
    <small id={id} className="style-wrong" role="status">
      {says}
    </small>
  );
}

interface ValueProps {
  property: string;
  value: string;
  properties: Record<string, string>;
  onChange: (value: string) => void;
}

/** A value to be changed: a colour by picking, a length by dragging or with the arrow keys, anything by writing. */
export function Value({ property, value, properties, onChange }: ValueProps) {
  const [editing, setEditing] = useState(false);
  const name = /^var\((--[\w-]+)\)$/.exec(value)?.[1];
  const resolved = name ? (properties[name] ?? '') : value;
  const seen = colour.test(resolved) ? resolved : null;
  const number = length.exec(value);
  const drag = useRef<{ x: number; from: number } | null>(null);
  const stepped = (by: number) => {
    if (!number) return;
    const [, digits = '0', unit = ''] = number;
    const step = /^(?:rem|em|lh|s)?$/.test(unit) ? 0.05 : 1;
    onChange(`${Number((Number(digits) + by * step).toFixed(3))}${unit}`);
  };
  return (
    <span className="style-value">
      {seen && (
        <ColorPicker
          size="small"
          value={seen}
          presets={[
            {
              label: 'Of the look',
              colors: Object.values(properties).filter((one) => colour.test(one)),
              key: 'look',
            },
          ]}
          onChangeComplete={(picked) => {
            const hex = picked.toHexString();
            const own = Object.entries(properties).find(([, one]) => one.toLowerCase() === hex.toLowerCase());
            onChange(own ? `var(${own[0]})` : hex);
          }}
          aria-label={`Pick ${property}`}
        />
      )}
      {editing ? (
        <Written
          property={property}
          value={value}
          label={`Value of ${property}`}
          options={offered(property, properties)}
          onStep={number ? stepped : undefined}
          onDone={(next) => {
            setEditing(false);
            if (next !== null && next !== value) onChange(next);
          }}
        />
      ) : (
        <button
          type="button"
          className={number ? 'style-number' : ''}
          aria-label={`${property}: ${value}`}
          title={number ? 'Drag to change, click to write; ↑ and ↓ step it' : 'Click to write'}
          onClick={() => !drag.current && setEditing(true)}
          onKeyDown={(event) => {
            if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
            if (!number) return;
            event.preventDefault();
            stepped((event.key === 'ArrowUp' ? 1 : -1) * (event.shiftKey ? 10 : 1));
          }}
          onPointerDown={(event) => {
            if (!number) return;
            event.currentTarget.setPointerCapture(event.pointerId);
            const start = { x: event.clientX, moved: 0 };
            const button = event.currentTarget;
            const from = Number(number[1]);
            const unit = number[2] ?? '';
            const step = /^(?:rem|em|lh|s)?$/.test(unit) ? 0.05 : 1;
            const moved = (move: PointerEvent) => {
              const by = Math.round((move.clientX - start.x) / 3);
              if (by === start.moved) return;
              start.moved = by;
              drag.current = { x: start.x, from };
              onChange(`${Number((from + by * step).toFixed(3))}${unit}`);
            };
            const ended = () => {
              button.removeEventListener('pointermove', moved);
              // The click that ends a drag is none.
              setTimeout(() => (drag.current = null), 0);
            };
            button.addEventListener('pointermove', moved);
            button.addEventListener('pointerup', ended, { once: true });
            button.addEventListener('pointercancel', ended, { once: true });
          }}
        >
          {value}
        </button>
      )}
    </span>
  );
}

/** Offers go while something else is written: what is wrong with it is told below. */
const fits = (written: string, option?: { value: string }): boolean => option?.value.includes(written.trim()) ?? false;

interface WrittenProps {
  property: string;
  value: string;
  label: string;
  options: { value: string; label: React.ReactNode }[];
  onStep: ((by: number) => void) | undefined;
  /** Null: left as it was. */
  onDone: (value: string | null) => void;
}

function Written({ property, value, label, options, onDone }: WrittenProps) {
  const [text, setText] = useState(value);
  const wrong = useWrong(property, text);
  const id = useId();
  const ended = useRef(false);
  const end = (next: string | null) => {
    if (ended.current) return;
    ended.current = true;
    onDone(next);
  };
  return (
    <>
      <AutoComplete
        autoFocus
        defaultOpen
        size="small"
        style={{ width: 220 }}
        aria-label={label}
        aria-describedby={id}
        {...(wrong ? { status: 'warning' as const } : {})}
        value={text}
        options={options}
        filterOption={(written, option) => written === value || fits(written, option)}
        onChange={(next: string) => setText(next)}
        onSelect={(next: string) => end(next)}
        onBlur={() => end(text.trim() || null)}
        onInputKeyDown={(event) => {
          if (event.key === 'Enter' && !event.currentTarget.getAttribute('aria-activedescendant')?.match(/_\d+$/))
            end(text.trim() || null);
          else if (event.key === 'Escape') end(null);
        }}
      />
      <WrongDeclaration id={id} says={wrong} />
    </>
  );
}

/** A property and its value, to be written. */
export function Pair({
  properties,
  onDone,
}: {
  properties: Record<string, string>;
  onDone: (property: string, value: string) => void;
}) {
  const [property, setProperty] = useState('');
  const [value, setValue] = useState('');
  const wrong = useWrong(property, value);
  const id = useId();
  const done = () => onDone(property.trim(), value.trim());
  return (
    <span className="style-pair">
      <Input
        size="small"
        autoFocus
        value={property}
        placeholder="property"
        aria-label="Property"
        onChange={(event) => setProperty(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && onDone('', '')}
      />
      <AutoComplete
        size="small"
        style={{ width: 190 }}
        value={value}
        placeholder="value"
        aria-label="Value"
        aria-describedby={id}
        {...(wrong ? { status: 'warning' as const } : {})}
        options={property ? offered(property, properties) : []}
        filterOption={fits}
        onChange={(next: string) => setValue(next)}
        onInputKeyDown={(event) => {
          if (event.key === 'Enter' && value.trim() && property.trim()) done();
          else if (event.key === 'Escape') onDone('', '');
        }}
      />
      <Button size="small" disabled={!property.trim() || !value.trim()} onClick={done}>
        Set
      </Button>
      <WrongDeclaration id={id} says={wrong} />
    </span>
  );
}
