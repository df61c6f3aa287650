'use client';
import { CloseOutlined, DeleteOutlined, PlusOutlined } from '@ant-design/icons';
import { Button, Input } from 'antd';
import { useState } from 'react';
import {
  missingCombinations,
  variantsWith,
  withOption,
  withoutOption,
  withoutValue,
  withValue,
  withVariants,
  type WholeProduct,
} from '@/core/exchange';
import { NamedUses } from './NamedUses';

interface Props {
  product: WholeProduct;
  set: (changed: Partial<WholeProduct>) => void;
}

/** What can be chosen of a product: options and their values, and variants for the combinations that have none. */
export function OptionsForm({ product, set }: Props) {
  const [focused, setFocused] = useState('');
  const missing = missingCombinations(product);
  const called = (slug: string, changed: Partial<WholeProduct['options'][number]>) =>
    set({ options: product.options.map((one) => (one.slug === slug ? { ...one, ...changed } : one)) });
  return (
    <>
      {product.options.map((option) => {
        const { slug, name, values } = option;
        const without = withoutOption(product, slug);
        return (
          <fieldset key={slug} className="record-option" onFocus={() => setFocused(slug)}>
            <legend className="unseen">{name}</legend>
            <div className="record-add">
              <Input
                size="small"
                aria-label={`Name of the option ${name}`}
                value={name}
                onChange={({ target }) => called(slug, { name: target.value })}
              />
              <Button
                size="small"
                type="text"
                aria-label={`Remove the option ${name}`}
                title={without ? `Remove ${name}` : `Variants differ by it: remove those first`}
                disabled={!without}
                icon={<DeleteOutlined aria-hidden />}
                onClick={() => without && set(without)}
              />
            </div>
            <ul className="record-values">
              {values.map((one) => {
                const have = variantsWith(product, slug, one.slug);
                const left = withoutValue(product, slug, one.slug);
                const change = (changed: Partial<typeof one>) =>
                  called(slug, { values: values.map((other) => (other === one ? { ...one, ...changed } : other)) });
                return (
                  <li key={one.slug}>
                    <input
                      type="color"
                      aria-label={`Colour of ${one.name}`}
                      data-none={one.colour === '' || undefined}
                      value={one.colour || '#ffffff'}
                      onChange={({ target }) => change({ colour: target.value })}
                    />
                    <Input
                      size="small"
                      variant="borderless"
                      aria-label={`${name}: ${one.name}`}
                      value={one.name}
                      onChange={({ target }) => change({ name: target.value })}
                    />
                    <Button
                      size="small"
                      type="text"
                      aria-label={`Remove ${one.name}`}
                      title={
                        left
                          ? `Remove ${one.name}`
                          : `${have} ${have === 1 ? 'variant has' : 'variants have'} it: remove those first`
                      }
                      disabled={!left}
                      icon={<CloseOutlined aria-hidden />}
                      onClick={() => left && set(left)}
                    />
                  </li>
                );
              })}
              <li>
                <Adding
                  label={`Another value of ${name}`}
                  onAdd={(value) => {
                    const next = withValue(product, slug, value);
                    if (next) set(next);
                    return next !== null;
                  }}
                />
              </li>
            </ul>
            {focused === slug && <NamedUses of="option" value={slug} page={`/product/${product.slug}`} />}
          </fieldset>
        );
      })}
      <Adding
        label="Another option"
        onAdd={(name) => {
          const options = withOption(product, name);
          if (options) set({ options });
          return options !== null;
        }}
      />
      {missing.length > 0 && (
        <Button
          size="small"
          icon={<PlusOutlined aria-hidden />}
          onClick={() => set({ variants: withVariants(product, missing) })}
        >
          {product.variants.length
            ? `Make the ${missing.length} ${missing.length === 1 ? 'variant' : 'variants'} that ${missing.length === 1 ? 'is' : 'are'} missing`
            : missing.length === 1
              ? 'Make it a variant to be bought'
              : `Make its ${missing.length} variants`}
        </Button>
      )}
    </>
  );
}

/** A name that is added with Enter; it stays where there is one already. */
function Adding({ label, onAdd }: { label: string; onAdd: (name: string) => boolean }) {
  const [name, setName] = useState('');
  const [taken, setTaken] = useState(false);
  const add = () => {
    if (!name.trim()) return;
    const added = onAdd(name);
    setTaken(!added);
    if (added) setName('');
  };
  return (
    <Input
      size="small"
      aria-label={label}
      placeholder={`${label}, Enter`}
      status={taken ? 'error' : ''}
      title={taken ? `There is “${name.trim()}” already.` : ''}
      value={name}
      onChange={({ target }) => {
        setTaken(false);
        setName(target.value);
      }}
      onPressEnter={add}
    />
  );
}
