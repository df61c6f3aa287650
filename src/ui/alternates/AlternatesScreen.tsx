'use client';
import { PlusOutlined } from '@ant-design/icons';
import { Alert, Badge, Button, Skeleton, Tabs } from 'antd';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { type AlternatesTarget, type RuleItem, type TargetItem, type TemplateItem } from '@/contract/alternates';
import type { Cell } from '@/core/alternates';
import { pathOf, type Subject } from '@/core/address';
import { messageOf, usePlace, SubjectField, useStored } from '@/ui/shared';
import { DescribeDialog, PinDialog, RetireDialog } from './AlternateDialogs';
import { AlternatesHead } from './AlternatesHead';
import { Arranged } from './Arranged';
import { AssignmentProblems } from './AssignmentProblems';
import { Assignments } from './Assignments';
import { CellList } from './CellList';
import { Coming } from './Coming';
import { Explain } from './Explain';
import { MakeAlternate } from './MakeAlternate';
import { nounOf } from './nouns';
import { RuleBuilder } from './RuleBuilder';
import { sampleOf } from './sample';
import { TemplateCards, type CardAct } from './TemplateCards';
import { useCover, type By } from './useCover';
import { useAlternates, useEdits } from './useEdits';
import { WhoGets } from './WhoGets';
import type { Filter } from './WhoTable';
import './alternates.css';

const noFilter: Filter = { group: null, template: null, because: null, rule: null };
type Dialog = { kind: 'make' | 'pin' | 'describe' | 'copy' | 'retire'; template: TemplateItem | null };

/** Which templates there are, who gets which, and why; in a draft, before anything is live. */
export function AlternatesScreen() {
  const { draft, get, go } = usePlace();
  const router = useRouter();
  const overview = useAlternates(draft);
  const wanted = get('of') ?? 'product';
  const item = overview.data?.targets.find((one) => one.key === wanted) ?? overview.data?.targets[0];
  const on = get('on');
  const change = (more: Record<string, string | null>) => go(more, true);
  return (
    <main className="alternates">
      {overview.isError && <Alert type="error" showIcon title={messageOf(overview.error)} />}
      {!item && overview.isLoading && <Skeleton active />}
      {item && overview.data && (
        <Screen
          key={item.key}
          draft={draft}
          item={item}
          targets={overview.data.targets}
          types={overview.data.types}
          wrong={overview.data.wrong}
          today={overview.data.today}
          revision={overview.data.version}
          on={on}
          why={get('why')}
          show={get('show')}
          onOn={(day) => change({ on: day })}
          onTarget={(key) => go({ of: key })}
          onTry={(query) => router.push(`/bench?${query}`)}
        />
      )}
    </main>
  );
}

interface Props {
  draft: string;
  item: AlternatesTarget;
  targets: AlternatesTarget[];
  types: string[];
  wrong: { path: string; line: number; says: string }[];
  today: string;
  /** Names what all of this was made from: it changes when the draft, the catalogue or the day does. */
  revision: string;
  on: string | null;
  /** A page to explain at first. */
  why: string | null;
  /** The tab that is open at first. */
  show: string | null;
  onOn: (day: string | null) => void;
  onTarget: (key: string) => void;
  onTry: (query: string) => void;
}

function Screen({ draft, item, targets, types, wrong, today, revision, on, why, show, onOn, onTarget, onTry }: Props) {
  const target: TargetItem = item.piece === undefined ? { kind: item.kind } : { kind: item.kind, piece: item.piece };
  const noun = nounOf(item);
  const [byKept, setBy] = useStored('cover-by', 'category');
  const by: By = byKept === 'type' ? 'type' : 'category';
  const [filter, setFilter] = useState<Filter>(noFilter);
  const [cell, setCell] = useState<Cell | null>(null);
  const [address, setAddress] = useState<string | null>(why);
  const [tab, setTab] = useState(show ?? 'why');
  const [dialog, setDialog] = useState<Dialog | null>(null);
  const [rule, setRule] = useState<RuleItem | 'new' | null>(null);
  /** The alternate that a new rule begins with; null: the latest. */
  const [ruleFor, setRuleFor] = useState<string | null>(null);
  const edits = useEdits(draft);
  const cover = useCover(draft, target, on, by, revision);
  const { coverage, switches } = cover;
  const problems = cover.problems ?? [];
  const here = problems.length + wrong.length;
  const templates = item.templates.map((one) => one.file.replace(/\.html$/, ''));
  const labelOf = (template: string) => item.templates[templates.indexOf(template)]?.label ?? template;
  const narrow = (more: Partial<Filter>) => {
    setFilter({ ...noFilter, ...more });
    setCell(null);
  };
  const choose = (chosen: Cell | null) => {
    setCell(chosen);
    setTab('why');
    if (chosen) setFilter({ ...noFilter, group: chosen.group, template: chosen.template, because: chosen.because });
  };
  const explainOf = (subject: { kind: Subject['kind']; slug: string; view?: string | null }) => {
    const listingOf = item.kind === 'listing' && subject.slug.startsWith('category/');
    const path = listingOf ? `/${subject.slug}` : pathOf({ kind: subject.kind, slug: subject.slug });
    setAddress(subject.view === 'list' ? `${path}?view=list` : path);
    setTab('why');
  };
  const act = (kind: CardAct, template: TemplateItem) => {
    if (kind === 'try') return void tryIt(template);
    if (kind === 'rule') {
      setRuleFor(template.name);
      return setRule('new');
    }
    if (kind === 'up' || kind === 'down') {
      const seen = item.templates.slice(1).map(({ name }) => name);
      const at = seen.indexOf(template.name);
      const names = seen.filter((name) => name !== template.name);
      names.splice(kind === 'up' ? at - 1 : at + 1, 0, template.name);
      return edits.edit({ do: 'order', ...target, of: 'alternates', names, seen }, 'Moved.');
    }
    setDialog({ kind, template });
  };
  const tryIt = async (template: TemplateItem) => {
    const row = await sampleOf(draft, target, template, true);
    if (!row) return;
    const tried = item.piece === undefined ? template.name : template.file.replace(/\.html$/, '');
    onTry(new URLSearchParams({ draft, page: pathOf(row), try: tried }).toString());
  };
  const close = () => setDialog(null);
  const listed = cell !== null;

  return (
    <>
      <AlternatesHead item={item} targets={targets} today={today} on={on} onOn={onOn} onTarget={onTarget} />

      <section className="alternates-templates" aria-labelledby="templates-title">
        <div className="section-head">
          <h2 id="templates-title">
            Templates <small>{item.piece === undefined ? `for ${item.kind} pages` : `of ${item.piece}`}</small>
          </h2>
          <Button size="small" icon={<PlusOutlined />} onClick={() => setDialog({ kind: 'make', template: null })}>
            New alternate
          </Button>
        </div>
        <TemplateCards
          draft={draft}
          target={target}
          item={item}
          coverage={coverage}
          revision={revision}
          chosen={filter.template}
          onChoose={(template) => narrow({ template })}
          onAct={act}
        />
        {item.templates.length === 1 ? (
          <p className="empty">
            {item.kind === 'home' ? 'The home page' : `Every one of the ${noun}`} gets <strong>default</strong>. Make an
            alternate when some should look different.
          </p>
        ) : (
          <>
            <div className="section-head">
              <h2>
                Assignments{' '}
                <small title="Pins go first, then the first rule that holds decides, else default">
                  pins, then rules
                </small>
              </h2>
              <Button
                size="small"
                icon={<PlusOutlined />}
                onClick={() => {
                  setRuleFor(null);
                  setRule('new');
                }}
              >
                New rule
              </Button>
            </div>
            <Assignments
              item={item}
              coverage={coverage}
              chosen={filter.rule}
              onChoose={(id) => narrow({ rule: id })}
              onPins={(alternate) =>
                narrow({
                  because: 'pin',
                  template: templates[item.templates.findIndex((one) => one.name === alternate)] ?? null,
                })
              }
              onEdit={setRule}
              onRemove={(one) => edits.edit({ do: 'remove-rule', id: one.id }, 'The rule is removed.')}
              onOrder={(names, seen) =>
                edits.edit({ do: 'order', ...target, of: 'rules', names, seen }, 'The order is changed.')
              }
            />
          </>
        )}
        <Arranged draft={draft} item={item} />
      </section>

      <WhoGets
        draft={draft}
        item={item}
        target={target}
        on={on}
        revision={revision}
        cover={cover}
        by={by}
        onBy={(next) => {
          setBy(next);
          narrow({});
        }}
        filter={filter}
        onFilter={narrow}
        cell={cell}
        onCell={choose}
        explained={address}
        onExplain={explainOf}
        edits={edits}
      />

      <section className="alternates-why" aria-label="Why, and what is wrong">
        <Tabs
          size="small"
          activeKey={tab}
          onChange={setTab}
          items={[
            {
              key: 'why',
              label: 'Why',
              children: (
                <>
                  <SubjectField
                    label="A page to explain"
                    placeholder="Choose any page to read why"
                    value={null}
                    onPick={explainOf}
                  />
                  {listed && (
                    <CellList
                      draft={draft}
                      target={target}
                      cell={cell}
                      by={by}
                      on={on}
                      revision={revision}
                      title={`${coverage?.groups.find(({ key }) => key === cell.group)?.name ?? ''}: ${labelOf(cell.template)}`}
                      onExplain={explainOf}
                      onClose={() => {
                        setCell(null);
                        narrow({});
                      }}
                    />
                  )}
                  {address !== null ? (
                    <Explain draft={draft} address={address} on={on} fresh={revision} />
                  ) : (
                    !listed && (
                      <p className="quiet">
                        Choose a page here, or a part of the map, to read which template it gets and which pin, rule or
                        default decides.
                      </p>
                    )
                  )}
                </>
              ),
            },
            {
              key: 'problems',
              label: (
                <span>
                  Problems <Badge count={here} size="small" color="var(--crimson)" />
                </span>
              ),
              children: (
                <AssignmentProblems
                  draft={draft}
                  wrong={wrong}
                  problems={problems}
                  onOpenRule={(problem, id) => {
                    const key = problem.target.piece ?? problem.target.kind;
                    const found = targets.find((one) => one.key === key)?.rules.find((one) => one.id === id);
                    if (key !== item.key) onTarget(key);
                    else if (found) setRule(found);
                  }}
                  onRetire={(problem, name) => {
                    const key = problem.target.piece ?? problem.target.kind;
                    const template =
                      targets.find((one) => one.key === key)?.templates.find((one) => one.name === name) ?? null;
                    if (key !== item.key) onTarget(key);
                    else setDialog({ kind: 'retire', template });
                  }}
                />
              ),
            },
            {
              key: 'coming',
              label: (
                <span>
                  Coming <small>{switches?.length || ''}</small>
                </span>
              ),
              children: <Coming switches={switches} item={item} onSee={onOn} />,
            },
          ]}
        />
      </section>

      <MakeAlternate
        draft={draft}
        target={target}
        from={dialog?.kind === 'copy' ? (dialog.template?.name ?? 'default') : 'default'}
        open={dialog?.kind === 'make' || dialog?.kind === 'copy'}
        onClose={close}
        onMade={(name) => narrow({ template: `${item.key}/${name}` })}
      />
      <PinDialog
        draft={draft}
        target={target}
        item={item}
        noun={noun}
        template={dialog?.kind === 'pin' ? dialog.template : null}
        onClose={close}
      />
      <DescribeDialog
        draft={draft}
        target={target}
        types={types}
        template={dialog?.kind === 'describe' ? dialog.template : null}
        onClose={close}
      />
      <RetireDialog
        draft={draft}
        target={target}
        item={item}
        noun={noun}
        template={dialog?.kind === 'retire' ? dialog.template : null}
        onClose={close}
      />
      <RuleBuilder
        draft={draft}
        target={target}
        item={item}
        on={on}
        noun={noun}
        rule={rule}
        alternate={ruleFor ?? item.templates.at(-1)?.name ?? 'default'}
        revision={revision}
        onClose={() => setRule(null)}
      />
    </>
  );
}
