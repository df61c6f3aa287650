'use client';
import { Select } from 'antd';
import type { PageAnswer } from '@/contract/api';
import { LayerTag } from '../shared/LayerTag';

interface Props {
  page: PageAnswer | undefined;
  path: string | null;
  paths: { path: string; layer: PageAnswer['drawn'][number]['layer'] }[];
  onOpen: (path: string) => void;
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

/** The chain of templates that leads to the file that is open, and all other files to open instead. */
export function Trail({ page, path, paths, onOpen }: Props) {
  const trail = page ? trailTo(page, path) : [];
  const drawn = page?.drawn.map((one) => ({ path: `${one.name}.html`, layer: one.layer })) ?? [];
  const own = new Set([...drawn, ...(page?.assets ?? [])].map((one) => one.path));
  const option = (one: Props['paths'][number]) => ({
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
  const listed = trail.some((one) => `${one.name}.html` === path);
  const current = paths.find((one) => one.path === path);
  return (
    <div className="trail">
      <nav aria-label="Trail of templates">
        <ol>
          {trail.map((one) => (
            <li key={one.name}>
              <button
                type="button"
                onClick={() => onOpen(`${one.name}.html`)}
                aria-current={`${one.name}.html` === path ? 'true' : undefined}
                title={`Open ${one.name}.html`}
              >
                {one.name}
              </button>
              <LayerTag layer={one.layer} />
            </li>
          ))}
          {path && !listed && (
            <li>
              <button type="button" aria-current="true">
                {path.replace(/\.html$/, '')}
              </button>
              {current && <LayerTag layer={current.layer} />}
            </li>
          )}
        </ol>
      </nav>
      <Select
        aria-label="Open a file"
        title="Open a file"
        className="trail-files"
        showSearch={{ optionFilterProp: 'value' }}
        value={null}
        placeholder="Files of this page"
        popupMatchSelectWidth={380}
        listHeight={420}
        onSelect={(value: string | null) => value && onOpen(value)}
        options={[
          { label: 'Made this page', options: drawn.map(option) },
          { label: 'Styles, scripts and pictures on it', options: (page?.assets ?? []).filter(textual).map(option) },
          { label: 'Everything else', options: paths.filter((one) => !own.has(one.path) && textual(one)).map(option) },
        ]}
        notFoundContent="No file of that name"
      />
    </div>
  );
}
