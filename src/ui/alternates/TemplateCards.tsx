'use client';
import { MoreOutlined } from '@ant-design/icons';
import { useQuery } from '@tanstack/react-query';
import { Button, Dropdown } from 'antd';
import Link from 'next/link';
import { type AlternatesTarget, type CoverageItem, type TargetItem, type TemplateItem } from '@/contract/alternates';
import { draftAddress, pathOf } from '@/core/address';
import { useDraftSite, LayerTag, tellsFramed } from '@/ui/shared';
import { sampleOf } from './sample';
import { Sign } from './Sign';

export type CardAct = 'try' | 'rule' | 'pin' | 'describe' | 'copy' | 'retire' | 'up' | 'down';

interface Props {
  draft: string;
  target: TargetItem;
  item: AlternatesTarget;
  coverage: CoverageItem | null;
  revision: string;
  chosen: string | null;
  onChoose: (template: string | null) => void;
  onAct: (act: CardAct, template: TemplateItem) => void;
}

const nameOf = (template: TemplateItem): string => template.file.replace(/\.html$/, '');

/** The templates of a target, each with its picture, its sign, and how many get it by which way. */
export function TemplateCards({ draft, target, item, coverage, revision, chosen, onChoose, onAct }: Props) {
  const labelOf = (name: string) => item.templates.find((one) => nameOf(one) === name)?.label ?? name;
  return (
    <ul className="template-cards">
      {item.templates.map((template, at) => {
        const name = nameOf(template);
        const ways = coverage?.ways.filter((way) => way.template === name) ?? [];
        const by = (because: string) =>
          ways.filter((way) => way.because === because).reduce((sum, way) => sum + way.count, 0);
        const count = ways.reduce((sum, way) => sum + way.count, 0);
        const own = template.name !== 'default';
        const facts = [
          ...(template.amends !== null && own
            ? [`changes to ${template.amends === name ? 'the layer below' : labelOf(template.amends)}`]
            : []),
          ...(by('pin') ? [`${by('pin')} by pin`] : []),
          ...(by('rule') ? [`${by('rule')} by rule`] : []),
        ].join(', ');
        return (
          <li key={template.name} data-chosen={chosen === name || undefined}>
            <TemplatePicture
              draft={draft}
              target={target}
              template={template}
              count={coverage && count}
              revision={revision}
            />
            <div>
              <button
                type="button"
                className="template-name"
                aria-pressed={chosen === name}
                title="Show who gets it"
                onClick={() => onChoose(chosen === name ? null : name)}
              >
                <Sign at={at} size={14} /> {template.label}
              </button>
              <p>
                <Link
                  href={`/bench?draft=${draft}&file=${encodeURIComponent(template.file)}`}
                  title={`Open ${template.file} on the Bench`}
                >
                  <code>{name}</code>
                </Link>{' '}
                {template.layer && <LayerTag layer={template.layer} />}
              </p>
              <p>
                {template.types.length > 0 && `for ${template.types.join(', ')}`}
                {template.types.length > 0 && facts && ' · '}
                {facts}
              </p>
              {coverage && own && !count && (
                <p className="template-unused">
                  No one uses it.{' '}
                  <Button size="small" onClick={() => onAct('rule', template)}>
                    By a rule…
                  </Button>{' '}
                  <Button size="small" onClick={() => onAct('pin', template)}>
                    Pin…
                  </Button>
                </p>
              )}
              {template.note && own && <p className="template-note">{template.note}</p>}
              {!template.layer && <p className="is-wrong">● Its file is missing: it is passed over.</p>}
            </div>
            <div className="template-side">
              <strong title={coverage ? `${count} of ${coverage.size}` : ''}>{coverage ? count : ''}</strong>
              {own && (
                <Dropdown
                  trigger={['click']}
                  menu={{
                    items: [
                      { key: 'try', label: 'Try it on the Bench' },
                      { key: 'rule', label: 'Give it by a rule…' },
                      { key: 'pin', label: 'Pin pages to it…' },
                      { key: 'copy', label: 'Copy it…' },
                      { key: 'describe', label: 'Describe or rename it…' },
                      ...(at > 1 ? [{ key: 'up', label: 'Move it up' }] : []),
                      ...(at < item.templates.length - 1 ? [{ key: 'down', label: 'Move it down' }] : []),
                      { type: 'divider' as const },
                      { key: 'retire', label: 'Retire it…', danger: true },
                    ],
                    onClick: ({ key }) => onAct(key as CardAct, template),
                  }}
                >
                  <Button
                    size="small"
                    type="text"
                    icon={<MoreOutlined />}
                    aria-label={`What to do with ${template.label}`}
                  />
                </Dropdown>
              )}
            </div>
          </li>
        );
      })}
    </ul>
  );
}

interface PictureProps {
  draft: string;
  target: TargetItem;
  template: TemplateItem;
  /** How many get it; null: not known yet. */
  count: number | null;
  revision: string;
}

/** A picture of a template, made by itself: a page of one who gets it, or of one it is meant for, made small. No script of it runs. */
function TemplatePicture({ draft, target, template, count, revision }: PictureProps) {
  const name = nameOf(template);
  const sample = useQuery({
    queryKey: ['sample', draft, target.kind, target.piece ?? '', name, Boolean(count), revision],
    queryFn: () => sampleOf(draft, target, template, Boolean(count)),
    enabled: template.layer !== null && count !== null,
    placeholderData: (before) => before,
  });
  const { base } = useDraftSite(draft);
  const subject = sample.data;
  if (!subject) return <span className="template-picture" aria-hidden="true" />;
  const path = pathOf(subject);
  const address =
    target.piece === undefined
      ? draftAddress(base, subject.view === 'list' ? `${path}?view=list` : path, {
          try: template.name,
          still: true,
          framed: tellsFramed(),
        })
      : `${base}/picture/${name}?of=${encodeURIComponent(path)}`;
  return (
    <span className="template-picture" aria-hidden="true">
      <iframe
        key={revision}
        src={address}
        // Of the draft’s own origin, for its fonts; nothing runs in it.
        sandbox="allow-same-origin"
        loading="lazy"
        tabIndex={-1}
        title={`${template.label}, small`}
        data-piece={target.piece === undefined ? undefined : ''}
      />
    </span>
  );
}
