'use client';
import { useQueries } from '@tanstack/react-query';
import { AutoComplete, Button, ColorPicker, Input, Select } from 'antd';
import { useEffect, useMemo, useRef, useState } from 'react';
import { fileEndpoints } from '@/contract/files';
import type { PageAnswer } from '@/contract/bench';
import type { Matched, ToFrame } from '@/contract/frame';
import {
  readRules,
  selectorsFor,
  shapingOf,
  withRule,
  withValue,
  type Shaping,
  type Sheet,
  type SheetChange,
} from '@/core/inspect';
import { call, LayerTag } from '@/ui/shared';
import { useUnsaved } from './useUnsaved';

interface Props {
  draft: string;
  assets: PageAnswer['assets'];
  shopLayer: string;
  /** Mark of the element, and the view it came with; null: none is meant. */
  mark: string | null;
  view: string | null;
  /** Changes when the page was rendered again. */
  shown: string;
  post: (message: ToFrame) => void;
  /** What the page said last of the rules that were asked about. */
  matched: (Matched & { id: number }) | null;
  onChange: (change: SheetChange) => void;
  onOpen: (path: string, line: number) => void;
}

let asked = 0;

/** The rules that shape the element, weightiest first: values are changed in place, and written into the shop's own sheet. */
export function Styles(props: Props) {
  const { draft, assets, shopLayer, mark, view, shown, post, matched, onChange, onOpen } = props;
  const paths = assets.filter(({ path }) => path.endsWith('.css'));
  const files = useQueries({
    queries: paths.map(({ path }) => ({
      queryKey: ['sheet', draft, path],
      queryFn: () => call(fileEndpoints.open, { draft, path }),
    })),
  });
  const kept = useUnsaved(draft);
  const typed = new Map(kept.map(({ path, text }) => [path, text]));
  const texts = JSON.stringify(
    files.flatMap(({ data }): Sheet[] =>
      data
        ? [
            {
              path: data.path,
              layer: typed.has(data.path) ? shopLayer : data.layer.name,
              own: typed.has(data.path) || data.layer.kind === 'shop',
              text: typed.get(data.path) ?? data.text,
            },
          ]
        : [],
    ),
  );
  const sheets = useMemo(() => JSON.parse(texts) as Sheet[], [texts]);
  const rules = useMemo(() => readRules(sheets), [sheets]);
  const wanted = useRef(0);
  useEffect(() => {
    if (!mark || !rules.length) return;
    wanted.current = ++asked;
    post({
      kind: 'match',
      id: wanted.current,
      mark,
      view,
      rules: rules.map(({ selectors, conditions }) => ({ selectors, conditions })),
    });
  }, [mark, view, rules, shown, post]);
  const shaping = useMemo(() => (matched ? shapingOf(rules, matched.rules) : []), [matched, rules]);
  if (!mark)
    return (
      <p className="empty-note">
        Point at an element of the page, or put the caret into one: the rules that shape it are listed here.
      </p>
    );
  if (!matched?.element) return <p className="empty-note">Looking at the page…</p>;
  const { element, properties } = matched;
  const own = shaping.filter(({ up }) => up === 0);
  const taken = shaping.filter(({ up }) => up > 0);
  const ruleOf = (one: Shaping) => (
    <RuleView
      key={`${one.rule.order} ${one.up}`}
      shaping={one}
      sheet={sheets[one.rule.sheet]}
      layer={assets.find(({ path }) => path === sheets[one.rule.sheet]?.path)?.layer}
      properties={properties}
      onOpen={onOpen}
      onValue={(property, value) => {
        const change = withValue(sheets, rules, one.rule, property, value);
        if (change) onChange(change);
      }}
      onAdd={(property, value) => {
        const change = withRule(sheets, rules, one.rule.selectors.join(', '), one.rule.conditions, property, value);
        if (change) onChange(change);
      }}
    />
  );
  return (
    <div className="styles">
      <NewRule
        key={`${element.name} ${element.classes.join(' ')}`}
        selectors={selectorsFor(element.name, element.classes, element.around)}
        properties={properties}
        onMake={(selector, property, value) => {
          const change = withRule(sheets, rules, selector, [], property, value);
          if (change) onChange(change);
        }}
      />
      {own.length === 0 && (
        <p className="empty-note">No rule of the theme’s sheets is meant for this element itself.</p>
      )}
      {own.map(ruleOf)}
      {taken.length > 0 && (
        <details className="styles-taken">
          <summary>Taken from the elements around it</summary>
          {taken.map(ruleOf)}
        </details>
      )}
    </div>
  );
}

interface RuleProps {
  shaping: Shaping;
  sheet: Sheet | undefined;
  layer: PageAnswer['assets'][number]['layer'] | undefined;
  properties: Record<string, string>;
  onOpen: (path: string, line: number) => void;
  onValue: (property: string, value: string) => void;
  onAdd: (property: string, value: string) => void;
}

function RuleView({ shaping, sheet, layer, properties, onOpen, onValue, onAdd }: RuleProps) {
  const { rule, weight, holds, declarations } = shaping;
  const [adding, setAdding] = useState(false);
  const matching = new Set(shaping.selectors);
  return (
    <section className="style-rule" data-holds={holds}>
      <header>
        <code>
          {rule.selectors.map((selector, at) => (
            <span key={selector} className={matching.has(selector) ? '' : 'quiet'}>
              {at > 0 && ', '}
              {selector}
            </span>
          ))}
        </code>
        {rule.conditions.map(({ name, text }) => (
          <small key={text}>
            @{name} {text}
            {holds ? '' : ': does not hold now'}
          </small>
        ))}
        <small title="Weight: ids, classes, types">{weight.join('·')}</small>
        <button type="button" className="link" onClick={() => sheet && onOpen(sheet.path, rule.line)}>
          {sheet?.path.replace(/^assets\//, '')}, line {rule.line}
        </button>
        {sheet?.own ? <span className="layer layer-shop">shop</span> : layer && <LayerTag layer={layer} />}
      </header>
      <ul>
        {declarations.map((one) => (
          <li key={`${one.property} ${one.from}`} data-wins={one.wins}>
            <span className="style-property">{one.property}</span>
            <Value
              property={one.property}
              value={one.value}
              properties={properties}
              onChange={(value) => onValue(one.property, value)}
            />
            {one.important && <small>!important</small>}
          </li>
        ))}
        {adding ? (
          <li>
            <Pair
              properties={properties}
              onDone={(property, value) => {
                setAdding(false);
                if (property && value) onAdd(property, value);
              }}
            />
          </li>
        ) : (
          <li>
            <button type="button" className="link" onClick={() => setAdding(true)}>
              Add a property
            </button>
          </li>
        )}
      </ul>
    </section>
  );
}

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

interface ValueProps {
  property: string;
  value: string;
  properties: Record<string, string>;
  onChange: (value: string) => void;
}

/** A value to be changed: a colour by picking, a length by dragging or with the arrow keys, anything by writing. */
function Value({ property, value, properties, onChange }: ValueProps) {
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

interface WrittenProps {
  value: string;
  label: string;
  options: { value: string; label: React.ReactNode }[];
  onStep: ((by: number) => void) | undefined;
  /** Null: left as it was. */
  onDone: (value: string | null) => void;
}

function Written({ value, label, options, onDone }: WrittenProps) {
  const [text, setText] = useState(value);
  const ended = useRef(false);
  const end = (next: string | null) => {
    if (ended.current) return;
    ended.current = true;
    onDone(next);
  };
  return (
    <AutoComplete
      autoFocus
      defaultOpen
      size="small"
      style={{ width: 220 }}
      aria-label={label}
      value={text}
      options={options}
      onChange={(next: string) => setText(next)}
      onSelect={(next: string) => end(next)}
      onBlur={() => end(text.trim() || null)}
      onInputKeyDown={(event) => {
        if (event.key === 'Enter' && !event.currentTarget.getAttribute('aria-activedescendant')?.match(/_\d+$/))
          end(text.trim() || null);
        else if (event.key === 'Escape') end(null);
      }}
    />
  );
}

/** A property and its value, to be written. */
function Pair({
  properties,
  onDone,
}: {
  properties: Record<string, string>;
  onDone: (property: string, value: string) => void;
}) {
  const [property, setProperty] = useState('');
  const [value, setValue] = useState('');
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
        options={property ? offered(property, properties) : []}
        onChange={(next: string) => setValue(next)}
        onInputKeyDown={(event) => {
          if (event.key === 'Enter' && value.trim() && property.trim()) done();
          else if (event.key === 'Escape') onDone('', '');
        }}
      />
      <Button size="small" disabled={!property.trim() || !value.trim()} onClick={done}>
        Set
      </Button>
    </span>
  );
}

/** Begins a rule for the element. */
function NewRule({
  selectors,
  properties,
  onMake,
}: {
  selectors: string[];
  properties: Record<string, string>;
  onMake: (selector: string, property: string, value: string) => void;
}) {
  const [selector, setSelector] = useState(selectors[0] ?? '');
  const [open, setOpen] = useState(false);
  return (
    <div className="style-new">
      {open ? (
        <>
          <Select
            size="small"
            aria-label="Selector"
            value={selector}
            options={selectors.map((one) => ({ value: one, label: one }))}
            onChange={setSelector}
            popupMatchSelectWidth={false}
          />
          <Pair
            properties={properties}
            onDone={(property, value) => {
              setOpen(false);
              if (property && value) onMake(selector, property, value);
            }}
          />
        </>
      ) : (
        <Button size="small" onClick={() => setOpen(true)}>
          New rule for it
        </Button>
      )}
    </div>
  );
}
