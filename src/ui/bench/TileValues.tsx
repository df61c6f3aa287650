'use client';
import { Button, InputNumber, Popover } from 'antd';
import { useRef, useState } from 'react';
import { MultiSelect, SubjectField } from '@/ui/shared';

interface Props {
  label: string;
  /** What tiles are made of; null: there are none. */
  option: { slug: string; values: string[] } | null;
  /** Slugs of the values that get a tile; none: all. */
  values: string[];
  ofProducts: Record<string, string[]>;
  /** A further value gets one only with so many pictures. */
  pictures: number;
  /** Whether the shop says so itself. */
  own: boolean;
  onValues: (values: string[] | undefined) => void;
  onPictures: (pictures: number | undefined) => void;
  onProducts: (ofProducts: Record<string, string[]> | undefined) => void;
}

/** Which values of an option get a tile: in all listings of a kind, and of single products. */
export function TileValues(props: Props) {
  const { label, option, values, ofProducts, pictures, own, onValues, onPictures, onProducts } = props;
  const [open, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const slugs = Object.keys(ofProducts);
  const said = values.length ? values.join(', ') : 'all';
  const products = slugs.length ? `; ${slugs.length} ${slugs.length === 1 ? 'product' : 'products'}` : '';
  const without = (slug: string) => Object.fromEntries(Object.entries(ofProducts).filter(([one]) => one !== slug));
  const orNone = (next: Record<string, string[]>) => (Object.keys(next).length ? next : undefined);
  const content = option && (
    <div
      className="tile-values"
      role="group"
      aria-label={label}
      onKeyDown={({ key, target }) => {
        // A list that is open closes alone.
        if (key !== 'Escape' || (target as Element).getAttribute('aria-expanded') === 'true') return;
        setOpen(false);
        button.current?.focus();
      }}
    >
      <Values
        label={`Values of ${option.slug} that get a tile`}
        option={option}
        placeholder="All of them"
        value={values}
        onChange={(next) => onValues(next.length ? next : undefined)}
      />
      <label>
        A further value only with{' '}
        <InputNumber
          size="small"
          aria-label={`pictures of ${label}`}
          min={0}
          max={99}
          precision={0}
          value={pictures}
          onChange={(next) => onPictures(next ?? undefined)}
        />{' '}
        pictures that show it
      </label>
      <p>Products with values of their own</p>
      {slugs.map((slug) => (
        <div key={slug} className="tile-values-product">
          <code>{slug}</code>
          <Values
            label={`Values of ${slug}`}
            option={option}
            placeholder="One tile for the product"
            value={ofProducts[slug] ?? []}
            onChange={(next) => onProducts({ ...ofProducts, [slug]: next })}
          />
          <Button
            size="small"
            type="text"
            aria-label={`${slug}: like the others`}
            onClick={() => onProducts(orNone(without(slug)))}
          >
            Like the others
          </Button>
        </div>
      ))}
      <SubjectField
        kind="product"
        value={null}
        label="Add a product"
        placeholder="Add a product"
        onPick={({ slug }) => onProducts({ ...ofProducts, [slug]: ofProducts[slug] ?? values })}
      />
    </div>
  );
  return (
    <Popover
      trigger="click"
      placement="bottomRight"
      destroyOnHidden
      open={open}
      onOpenChange={setOpen}
      content={content}
      title="Values that get a tile"
    >
      <Button ref={button} size="small" disabled={!option} aria-label={label} className={own ? 'look-own' : ''}>
        {option ? said + products : '–'}
      </Button>
    </Popover>
  );
}

interface ValuesProps {
  label: string;
  option: { values: string[] };
  placeholder: string;
  value: string[];
  onChange: (values: string[]) => void;
}

function Values({ label, option, placeholder, value, onChange }: ValuesProps) {
  return (
    <MultiSelect
      size="small"
      aria-label={label}
      placeholder={placeholder}
      value={value}
      options={option.values.map((slug) => ({ value: slug, label: slug }))}
      onChange={onChange}
    />
  );
}
