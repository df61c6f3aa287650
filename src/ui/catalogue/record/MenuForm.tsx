'use client';
import { DeleteOutlined, PlusOutlined } from '@ant-design/icons';
import { Button, Input } from 'antd';
import { useState } from 'react';
import type { MenuItemFile } from '@/contract/catalogue-file';
import { pathOf } from '@/core/address';
import { SubjectField } from '@/ui/shared';
import { itemAt, menuNodes, withItem, withItemMoved, withNewItem } from '../lists/menu-items';
import { OutlineTree } from '../lists/OutlineTree';
import { type FormProps, languageName, Line } from './fields';

/** A menu: its links as an outline that is dragged, and the one that is chosen. */
export function MenuForm({ store, answer, record }: FormProps) {
  const [chosen, setChosen] = useState<string | null>(null);
  const items = (record.items ?? []) as MenuItemFile[];
  const nodes = menuNodes(items);
  const item = chosen === null ? undefined : itemAt(items, chosen);
  const take = ({ items: next, key }: { items: MenuItemFile[]; key: string }) => {
    store.set({ items: next });
    setChosen(key);
  };
  const remove = (key: string) => {
    store.set({ items: withItem(items, key, null) });
    setChosen(null);
  };
  const add = (inside: boolean) =>
    take(
      withNewItem(
        items,
        inside && chosen !== null
          ? { parent: chosen, place: nodes.filter(({ parent }) => parent === chosen).length }
          : { parent: null, place: items.length },
        { label: 'New link', target: '/' },
      ),
    );
  return (
    <>
      <Line label="Name">
        <Input value={String(record.name ?? '')} onChange={({ target }) => store.set({ name: target.value })} />
      </Line>
      <h3>Links</h3>
      {nodes.length > 0 ? (
        <OutlineTree
          label="Links"
          nodes={nodes}
          chosen={chosen}
          onChoose={setChosen}
          onMove={(key, to) => take(withItemMoved(items, key, to))}
          onRemove={remove}
        >
          {({ item: { label, target } }) => (
            <>
              <span>{label || <em>no text</em>}</span>
              <small className="quiet">{target}</small>
            </>
          )}
        </OutlineTree>
      ) : (
        <p className="quiet">There is no link in it yet.</p>
      )}
      <div className="record-add">
        <Button size="small" icon={<PlusOutlined aria-hidden />} onClick={() => add(false)}>
          Add a link
        </Button>
        {item && (
          <Button size="small" onClick={() => add(true)}>
            Add one below “{item.label}”
          </Button>
        )}
      </div>
      {item && chosen !== null && (
        <section className="record-chosen" aria-label={`Link ${item.label}`}>
          <MenuLink
            key={chosen}
            item={item}
            locales={answer.locales}
            onChange={(next) => store.set({ items: withItem(items, chosen, next) })}
          />
          <Button size="small" icon={<DeleteOutlined aria-hidden />} onClick={() => remove(chosen)}>
            Remove it{item.children?.length ? ' and what is below it' : ''}
          </Button>
        </section>
      )}
      <p className="quiet">Drag links, or move the chosen one with Alt and the arrow keys.</p>
    </>
  );
}

interface LinkProps {
  item: MenuItemFile;
  locales: readonly string[];
  onChange: (item: MenuItemFile) => void;
}

function MenuLink({ item, locales, onChange }: LinkProps) {
  const label = (locale: string, value: string) => {
    if (locale === locales[0]) return onChange({ ...item, label: value });
    const { [locale]: _, ...others } = item.texts ?? {};
    const texts = value ? { ...others, [locale]: { label: value } } : others;
    const { texts: __, ...bare } = item;
    onChange(Object.keys(texts).length ? { ...bare, texts } : bare);
  };
  return (
    <>
      {locales.map((locale, at) => (
        <Line key={locale} label={locales.length > 1 ? `Text, ${languageName(locale)}` : 'Text'}>
          <Input
            size="small"
            lang={locale}
            value={(at ? item.texts?.[locale]?.label : item.label) ?? ''}
            placeholder={at ? item.label : ''}
            onChange={({ target }) => label(locale, target.value)}
          />
        </Line>
      ))}
      <div className="record-line">
        <span>Leads to</span>
        <SubjectField
          label="Leads to"
          value={null}
          placeholder="Find a page by its name"
          onPick={(subject) =>
            onChange({
              ...item,
              target: pathOf(subject),
              label: item.label === 'New link' || !item.label ? subject.name : item.label,
            })
          }
        />
      </div>
      <Line label="Address">
        <Input
          size="small"
          value={item.target}
          placeholder="/content/… or https://…"
          onChange={({ target }) => onChange({ ...item, target: target.value })}
        />
      </Line>
    </>
  );
}
