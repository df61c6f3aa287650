'use client';
import type { z } from 'zod';
import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Checkbox, Input, Modal, Select, Skeleton } from 'antd';
import { useEffect, useState } from 'react';
import {
  type matchRequest,
  alternateEndpoints,
  type AlternatesTarget,
  type MatchAnswer,
  type RuleItem,
  type TargetItem,
} from '@/contract/alternates';
import type { Condition } from '@/core/alternates';
import { call, ApiError, messageOf } from '@/ui/shared';
import { ConditionEditor, filledIn, unfilled } from './ConditionEditor';
import { Sign } from './Sign';
import { useEdits } from './useEdits';

/** A rule while it is being made. */
interface Made {
  alternate: string;
  when: Condition;
  from: string;
  to: string;
  yearly?: boolean;
  note: string;
}

interface Props {
  draft: string;
  target: TargetItem;
  item: AlternatesTarget;
  on: string | null;
  noun: string;
  /** The rule that is changed; 'new' for another, null while none is. */
  rule: RuleItem | 'new' | null;
  /** The alternate that a new one gives. */
  alternate: string;
  revision: string;
  onClose: () => void;
}

/** What is being made is kept in the browser until it is saved or dropped: a reload loses nothing. */
function readStored(key: string): Made | null {
  try {
    const read = JSON.parse(localStorage.getItem(key) ?? 'null') as Made | null;
    return read && typeof read.alternate === 'string' && typeof read.when === 'object' ? read : null;
  } catch {
    return null;
  }
}

const bare = (rule: RuleItem) => ({
  id: rule.id,
  kind: rule.kind,
  ...(rule.piece === undefined ? {} : { piece: rule.piece }),
  alternate: rule.alternate,
  when: rule.when,
  from: rule.from,
  to: rule.to,
  ...(rule.yearly ? { yearly: true } : {}),
  note: rule.note,
});

/** What a rule for an alternate begins with: the types that it is meant for. */
function meantFor({ kind, templates }: AlternatesTarget, alternate: string): Condition[] {
  const types = kind === 'product' ? (templates.find(({ name }) => name === alternate)?.types ?? []) : [];
  return types.length ? [{ fact: 'type', test: 'is', value: types }] : [];
}

/** Makes or changes a rule; while it is made, whom it holds for stands beside it. */
export function RuleBuilder(props: Props) {
  const { rule, onClose } = props;
  return (
    <Modal
      open={rule !== null}
      width={980}
      footer={null}
      onCancel={onClose}
      title={rule === 'new' ? 'New rule' : 'Change the rule'}
      destroyOnHidden
      className="rule-modal"
    >
      {rule !== null && <Builder key={rule === 'new' ? '' : rule.id} {...props} rule={rule} />}
    </Modal>
  );
}

function Builder({
  draft,
  target,
  item,
  on,
  noun,
  rule,
  alternate,
  revision,
  onClose,
}: Props & { rule: RuleItem | 'new' }) {
  const key = `last:rule:${draft}:${item.key}:${rule === 'new' ? '' : rule.id}`;
  const saved: Made =
    rule === 'new'
      ? { alternate, when: { all: meantFor(item, alternate) }, from: '', to: '', note: '' }
      : {
          alternate: rule.alternate,
          when: rule.when,
          from: rule.from ?? '',
          to: rule.to ?? '',
          yearly: rule.yearly ?? false,
          note: rule.note,
        };
  const [restored] = useState(() => readStored(key));
  const [made, setMade] = useState<Made>(restored ?? saved);
  const [stale, setStale] = useState<string | null>(null);
  const edits = useEdits(draft);
  const { kind, piece } = target;
  const facts = useQuery({
    queryKey: ['facts-of', kind, revision],
    queryFn: () => call(alternateEndpoints.facts, { draft, kind: kind }),
  });
  const change = (more: Partial<Made>) => {
    const next = { ...made, ...more };
    setMade(next);
    try {
      localStorage.setItem(key, JSON.stringify(next));
    } catch {
      // A browser without room keeps it only while it is open.
    }
  };
  const forget = () => localStorage.removeItem(key);
  const left = unfilled(made.when);
  const days =
    made.from && made.to && made.from > made.to
      ? 'It ends before it begins: choose a later last day.'
      : made.yearly && !(made.from && made.to)
        ? 'What comes every year needs a first and a last day.'
        : null;

  const save = (over: boolean) => {
    const when = filledIn(made.when);
    if (days) return;
    const used = new Set(item.rules.map(({ id }) => id));
    // Ids are one for all targets.
    const wanted = rule === 'new' ? `${item.key}-${made.alternate}` : rule.id;
    let id = wanted;
    if (rule === 'new') for (let number = 2; used.has(id); number++) id = `${wanted}-${number}`;
    const now = item.rules.find((one) => one.id === id);
    const was = rule === 'new' ? null : over ? (now ? bare(now) : null) : bare(rule);
    const body = {
      edit: {
        do: 'put-rule' as const,
        rule: {
          id,
          kind,
          ...(piece === undefined ? {} : { piece }),
          alternate: made.alternate,
          when,
          from: made.from || null,
          to: made.to || null,
          ...(made.yearly ? { yearly: true } : {}),
          note: made.note,
        },
        was,
      },
    };
    edits.mutate(
      { does: 'edit', body, says: rule === 'new' ? 'The rule stands after the others.' : 'The rule is changed.' },
      {
        onSuccess: () => {
          forget();
          onClose();
        },
        onError: (error) => {
          if (error instanceof ApiError && (error.body.code === 'changed' || error.body.code === 'gone'))
            setStale(messageOf(error));
        },
      },
    );
  };
  const labels = item.templates.filter((one) => one.layer !== null);
  return (
    <div className="rule-builder">
      <div className="rule-form">
        {restored && (
          <Alert
            type="info"
            showIcon
            title="What you had begun is here again."
            action={
              <Button
                size="small"
                onClick={() => {
                  forget();
                  setMade(saved);
                }}
              >
                Start over
              </Button>
            }
          />
        )}
        {stale && (
          <Alert
            type="warning"
            showIcon
            title={stale}
            action={
              <Button size="small" onClick={() => save(true)}>
                Save mine
              </Button>
            }
          />
        )}
        <div className="rule-gives">
          <label htmlFor="rule-alternate">Give</label>
          <Select
            id="rule-alternate"
            value={made.alternate}
            onChange={(value: string) => change({ alternate: value })}
            options={labels.map((one) => ({ value: one.name, label: one.label }))}
            optionRender={({ value, label }) => (
              <span className="who-gets">
                <Sign at={item.templates.findIndex((one) => one.name === value)} size={14} /> {label}
              </span>
            )}
            popupMatchSelectWidth={220}
          />
          <span>to {noun} for which</span>
        </div>
        {facts.isError && <Alert type="error" showIcon title={messageOf(facts.error)} />}
        {facts.data ? (
          facts.data.facts.length ? (
            <ConditionEditor of={made.when} facts={facts.data} onChange={(when) => change({ when })} />
          ) : (
            <p className="quiet">There is one {noun}: the days below decide.</p>
          )
        ) : (
          <Skeleton active title={false} />
        )}
        <div className="rule-days">
          <label>
            From{' '}
            <Input
              type="date"
              size="small"
              value={made.from}
              onChange={(event) => change({ from: event.target.value })}
            />
          </label>
          <label>
            to{' '}
            <Input
              type="date"
              size="small"
              value={made.to}
              status={days ? 'error' : ''}
              onChange={(event) => change({ to: event.target.value })}
            />
          </label>
          <Checkbox checked={made.yearly ?? false} onChange={(event) => change({ yearly: event.target.checked })}>
            Every year
          </Checkbox>
          <span className="quiet">{days ?? 'both days included; empty: always'}</span>
        </div>
        <label className="rule-note">
          Note{' '}
          <Input
            size="small"
            maxLength={500}
            value={made.note}
            placeholder="Why this rule"
            onChange={(event) => change({ note: event.target.value })}
          />
        </label>
        <p className="rule-buttons">
          <Button onClick={onClose}>Close</Button>
          <Button
            type="primary"
            loading={edits.isPending}
            disabled={left > 0 || days !== null}
            onClick={() => save(false)}
          >
            {rule === 'new' ? 'Add the rule' : 'Save the rule'}
          </Button>
          {left > 0 && (
            <span className="quiet">{left === 1 ? 'One question is' : `${left} questions are`} not filled in yet.</span>
          )}
        </p>
      </div>
      <Matches
        draft={draft}
        target={target}
        item={item}
        on={on}
        noun={noun}
        when={filledIn(made.when)}
        id={rule === 'new' ? null : rule.id}
      />
    </div>
  );
}

interface MatchesProps {
  draft: string;
  target: TargetItem;
  item: AlternatesTarget;
  on: string | null;
  noun: string;
  when: Condition;
  id: string | null;
}

/** Whom a condition holds for, at once. */
function Matches({ draft, target, item, on, noun, when, id }: MatchesProps) {
  const [found, setFound] = useState<MatchAnswer | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const asked = JSON.stringify({ target, on, when, id });
  useEffect(() => {
    let over = false;
    const timer = setTimeout(() => {
      call(alternateEndpoints.match, { draft }, JSON.parse(asked) as z.input<typeof matchRequest>).then(
        (answer) => {
          if (over) return;
          setFound(answer);
          setFailure(null);
        },
        (error: unknown) => {
          if (!over) setFailure(messageOf(error));
        },
      );
    }, 120);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [draft, asked]);
  const labels = new Map(item.templates.map((one, at) => [one.file.replace(/\.html$/, ''), { label: one.label, at }]));
  return (
    <section className="rule-matches" aria-label="Whom it holds for">
      {failure && <Alert type="error" showIcon title={failure} />}
      {found && (
        <>
          <p role="status">
            Holds for <strong>{found.count}</strong> of {found.of} {noun}
            {found.taken > 0 && (
              <small>
                , {found.taken} of them {found.taken === 1 ? 'is' : 'are'} taken before it
              </small>
            )}
          </p>
          {found.wrong && <Alert type="warning" showIcon title={found.wrong} />}
          {found.count === 0 && !found.wrong && <p className="quiet">Nobody yet. Ask less, or something else.</p>}
          <ul tabIndex={0} aria-label="Whom it holds for, by name">
            {found.rows.map((row) => (
              <li key={`${row.slug} ${row.view ?? ''} ${row.name}`}>
                <span>
                  {row.name} <small>{row.view ? `as ${row.view}` : row.detail}</small>
                </span>
                <span className="who-gets" title={`Now it gets ${labels.get(row.template)?.label ?? row.template}`}>
                  <Sign at={labels.get(row.template)?.at ?? 0} size={13} />
                </span>
              </li>
            ))}
          </ul>
          {found.count > found.rows.length && <p className="quiet">and {found.count - found.rows.length} more</p>}
        </>
      )}
    </section>
  );
}
