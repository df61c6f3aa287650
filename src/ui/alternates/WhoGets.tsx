'use client';
import { Alert, Button, Progress, Segmented, Select } from 'antd';
import { useState } from 'react';
import type { AlternatesTarget, TargetItem, WhoItem } from '@/contract/alternates';
import { coverTree, wayTo, type Cell } from '@/core/alternates';
import { useStored } from '@/ui/shared';
import { CoverMap } from './CoverMap';
import { nounOf } from './nouns';
import type { By, useCover } from './useCover';
import type { useEdits } from './useEdits';
import { WhoTable, type Filter } from './WhoTable';

interface Props {
  draft: string;
  item: AlternatesTarget;
  target: TargetItem;
  on: string | null;
  revision: string;
  cover: ReturnType<typeof useCover>;
  by: By;
  onBy: (by: By) => void;
  filter: Filter;
  onFilter: (more: Partial<Filter>) => void;
  /** The part of the map that is chosen. */
  cell: Cell | null;
  onCell: (cell: Cell | null) => void;
  /** Address of the page that is explained. */
  explained: string | null;
  onExplain: (who: WhoItem) => void;
  edits: ReturnType<typeof useEdits>;
}

/** Who gets what: as a map by groups, or as a table of all, narrowed by how each comes to its template. */
export function WhoGets(props: Props) {
  const { draft, item, target, on, revision, by, filter, cell, edits, onFilter } = props;
  const { coverage, progress, failure } = props.cover;
  const [view, setView] = useStored('cover-view', 'Map');
  const [zoom, setZoom] = useState<string | null>(null);
  const noun = nounOf(item);
  /** What the map counts: a listing has two views. */
  const counted = item.kind === 'listing' ? 'views of listings' : noun;
  const templates = item.templates.map((one) => one.file.replace(/\.html$/, ''));
  const labelOf = (template: string) => item.templates[templates.indexOf(template)]?.label ?? template;
  const tree = coverage && coverTree(coverage, templates);
  const unused = coverage
    ? item.templates.filter(
        (one, at) => at > 0 && !coverage.ways.some((way) => way.template === templates[at] && way.count),
      )
    : [];
  const count = (because: string) =>
    coverage?.ways.reduce((sum, way) => sum + (way.because === because ? way.count : 0), 0) ?? 0;
  return (
    <section className="alternates-who" aria-labelledby="who-title">
      <div className="section-head">
        <h2 id="who-title">
          Who gets what <small>{coverage ? `${coverage.size} ${counted}` : ''}</small>
        </h2>
        <span className="who-views">
          {item.kind === 'product' && (
            <Select
              size="small"
              aria-label="Grouped by"
              value={by}
              options={[
                { value: 'category', label: 'by category' },
                { value: 'type', label: 'by type' },
              ]}
              onChange={(value: By) => {
                setZoom(null);
                props.onBy(value);
              }}
            />
          )}
          <Segmented
            size="small"
            aria-label="Map or table"
            options={['Map', 'Table']}
            value={view}
            onChange={setView}
          />
        </span>
      </div>
      <div className="who-filters" role="group" aria-label="Show">
        {(
          [
            [null, 'all', coverage?.size ?? 0],
            ['default', 'default only', count('default')],
            ['pin', 'by pin', count('pin')],
            ['rule', 'by rule', count('rule')],
          ] as const
        ).map(([because, says, number]) => (
          <button
            key={says}
            type="button"
            aria-pressed={
              because === null
                ? !filter.template && !filter.because && !filter.rule && !filter.group
                : filter.because === because && !filter.group && !filter.template
            }
            onClick={() => onFilter({ because })}
          >
            {says} <small>{number}</small>
          </button>
        ))}
        {unused.length > 0 && (
          <span className="who-unused" title="Nobody gets these">
            no one uses {unused.map(({ label }) => label).join(', ')}
          </span>
        )}
      </div>
      {failure && <Alert type="error" showIcon title={failure} />}
      {progress !== null && !coverage && <Progress percent={Math.round(progress * 100)} size="small" />}
      {coverage && tree && view === 'Map' && (
        <>
          {zoom !== null && (
            <nav className="map-way" aria-label="Where the map is">
              <Button size="small" type="link" onClick={() => setZoom(null)}>
                all {counted}
              </Button>
              {wayTo(tree, zoom).map((group) => (
                <span key={group.key}>
                  {' › '}
                  {group.key === zoom ? (
                    <strong aria-current="true">{group.name}</strong>
                  ) : (
                    <Button size="small" type="link" onClick={() => setZoom(group.key)}>
                      {group.name}
                    </Button>
                  )}
                </span>
              ))}
            </nav>
          )}
          <CoverMap
            tree={tree}
            size={coverage.size}
            templates={templates}
            labelOf={labelOf}
            noun={counted}
            zoom={zoom}
            onZoom={setZoom}
            chosen={cell}
            onChoose={props.onCell}
            stands={standing(filter, coverage, cell)}
          />
        </>
      )}
      {coverage && view === 'Table' && (
        <WhoTable
          draft={draft}
          target={target}
          item={item}
          on={on}
          by={by}
          revision={revision}
          filter={filter}
          noun={counted}
          explained={props.explained}
          onExplain={props.onExplain}
          busy={edits.isPending}
          onPin={(slugs, alternate) =>
            edits.edit(
              { do: 'pin', ...target, slugs, alternate },
              alternate === null ? `${slugs.length} pins removed.` : `${slugs.length} ${noun} pinned.`,
            )
          }
        />
      )}
    </section>
  );
}

/** Which cells of the map stand out by what is filtered; null: all of them. */
function standing(
  filter: Filter,
  coverage: { ways: { template: string; because: string; rule: string | null; count: number }[] },
  cell: Cell | null,
) {
  if (cell || (filter.template === null && filter.because === null && filter.rule === null)) return null;
  const byRule = coverage.ways.find((way) => way.rule === filter.rule && way.count)?.template;
  return (one: Cell): boolean => {
    if (filter.rule !== null) return one.because === 'rule' && one.template === byRule;
    return (
      (filter.template === null || one.template === filter.template) &&
      (filter.because === null || one.because === filter.because)
    );
  };
}
