'use client';
import { Select } from 'antd';
import { useEffect, useRef, useState } from 'react';
import type { LayerItem } from '@/contract/shared';
import type { PageAnswer } from '@/contract/bench';
import type { Step } from '@/core/inspect';
import { LayerTag } from '@/ui/shared';
import { recentFiles } from '@/ui/workspace';

interface Props {
  draft: string;
  /** The way to the caret's element on the page; empty where it is not on it. */
  steps: Step[];
  page: PageAnswer | undefined;
  /** Files whose source took part in the page. */
  sources: readonly string[];
  path: string | null;
  /** The layer of the open file. */
  layer: LayerItem | null;
  paths: { path: string; layer: LayerItem }[];
  picking: boolean;
  onPicking: (open: boolean) => void;
  onOpen: (path: string) => void;
  onStep: (step: Step, next: Step | undefined) => void;
}

/** From the layout down to a file: layouts that the page's template draws, the template, then the pieces that lead to it. */
export function trailTo(page: PageAnswer, path: string | null): PageAnswer['drawn'] {
  const byName = new Map(page.drawn.map((one) => [one.name, one]));
  const start = byName.get(page.template);
  if (!start) return [];
  const layouts = page.drawn.filter((one) => one.name.startsWith('layouts/') && one.by === `${page.template}.html`);
  const below: PageAnswer['drawn'] = [];
  let at = path?.endsWith('.html') ? byName.get(path.slice(0, -5)) : undefined;
  while (at && at !== start && !layouts.includes(at) && !below.includes(at)) {
    below.unshift(at);
    at = at.by ? byName.get(at.by.replace(/\.html$/, '')) : undefined;
  }
  // A piece that the layout draws stands under the layout, not under the page's template.
  return at && layouts.includes(at) ? [...layouts, ...below] : [...layouts, start, ...below];
}

/** The chain of templates that leads to the caret's element, and all other files to open instead. */
export function Trail({ draft, steps, page, sources, path, layer, paths, picking, onPicking, onOpen, onStep }: Props) {
  const field = useRef<{ focus: () => void }>(null);
  const [recent, setRecent] = useState<string[]>([]);
  useEffect(() => {
    if (picking) field.current?.focus();
  }, [picking]);
  const drawn = page?.drawn.map((one) => ({ path: `${one.name}.html`, layer: one.layer })) ?? [];
  const byPath = new Map(paths.map((one) => [one.path, one]));
  const own = new Set([...drawn, ...(page?.assets ?? [])].map((one) => one.path));
  const option = (one: { path: string; layer: LayerItem }) => ({
    value: one.path,
    label: (
      <span className="subject-option">
        <span>{one.path}</span>
        <LayerTag layer={one.layer} />
      </span>
    ),
  });
  const textual = (one: { path: string }) =>
    /\.(?:html|css|js|json|svg)$/.test(one.path) && one.path !== 'alternates.json';
  const layerOf = (name: string) => page?.drawn.find((one) => one.name === name)?.layer ?? null;
  const way = steps.length
    ? steps.map((step, at) => ({
        name: step.template,
        layer: `${step.template}.html` === path ? layer : layerOf(step.template),
        current: at === steps.length - 1,
        go: () => onStep(step, steps[at + 1]),
      }))
    : (page ? trailTo(page, path) : []).map((one) => ({
        name: one.name,
        layer: one.layer,
        current: `${one.name}.html` === path,
        go: () => onOpen(`${one.name}.html`),
      }));
  const listed = way.some((one) => `${one.name}.html` === path);
  // A file that the page does not use stands by itself: no way leads to it.
  const used = path === null || own.has(path) || listed || sources.includes(path);
  const recents = recent.filter((one) => one !== path && byPath.has(one)).slice(0, 6);
  const recentSet = new Set(recents);
  return (
    <div className="trail">
      <nav aria-label="Trail of templates">
        <ol>
          {(used ? way : []).map((one, at) => (
            <li key={`${at} ${one.name}`}>
              <button
                type="button"
                onClick={one.go}
                aria-current={one.current && `${one.name}.html` === path ? 'true' : undefined}
                title={`Open ${one.name}.html`}
              >
                {one.name}
              </button>
              {one.layer && <LayerTag layer={one.layer} />}
            </li>
          ))}
          {path && !listed && (
            <li>
              <button type="button" aria-current="true">
                {path.replace(/\.html$/, '')}
              </button>
              {layer && <LayerTag layer={layer} />}
              {page && !used && path.endsWith('.html') && <small className="quiet">not on this page</small>}
            </li>
          )}
        </ol>
      </nav>
      <Select
        ref={field as never}
        aria-label="Open a file"
        title="Open a file (Ctrl P)"
        className="trail-files"
        showSearch={{ optionFilterProp: 'value' }}
        value={null}
        open={picking}
        onOpenChange={(open) => {
          if (open) setRecent(recentFiles(draft));
          onPicking(open);
        }}
        placeholder="Open a file"
        popupMatchSelectWidth={380}
        listHeight={420}
        onSelect={(value: string | null) => {
          onPicking(false);
          if (value) onOpen(value);
        }}
        options={[
          {
            label: 'Opened last',
            options: recents.map((one) => option(byPath.get(one) as (typeof paths)[number])),
          },
          { label: 'Made this page', options: drawn.filter((one) => !recentSet.has(one.path)).map(option) },
          {
            label: 'Styles, scripts and pictures on it',
            options: (page?.assets ?? []).filter((one) => textual(one) && !recentSet.has(one.path)).map(option),
          },
          {
            label: 'Everything else',
            options: paths.filter((one) => !own.has(one.path) && !recentSet.has(one.path) && textual(one)).map(option),
          },
        ].filter(({ options }) => options.length)}
        notFoundContent="No file of that name"
      />
    </div>
  );
}
