'use client';
import { useQueries } from '@tanstack/react-query';
import { Button, Select } from 'antd';
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
import { Pair, Value } from './StyleValue';
import { useUnsaved } from '@/ui/workspace';

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
  const unsaved = useUnsaved(draft);
  const typed = new Map(unsaved.map(({ path, text }) => [path, text]));
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
