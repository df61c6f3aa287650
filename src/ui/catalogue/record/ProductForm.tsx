'use client';
import {
  ArrowDownOutlined,
  ArrowUpOutlined,
  DeleteOutlined,
  EyeInvisibleOutlined,
  EyeOutlined,
  PlusOutlined,
} from '@ant-design/icons';
import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import type { WholeProduct } from '@/core/exchange';
import { MultiSelect } from '@/ui/shared';
import { CustomFields } from './CustomFields';
import { type FormProps, Line, Texts } from './fields';
import { MoneyField } from './MoneyField';
import { RecordPictures } from './RecordPictures';
import { NamedUses } from './NamedUses';
import { OptionsForm } from './OptionsForm';
import { SlugLine } from './SlugLine';
import type { Fields } from './record-store';

type Attribute = WholeProduct['attributes'][number];

/** All parts of a product's record. */
export function ProductForm(props: FormProps) {
  const { store, answer, record } = props;
  const product = record as unknown as WholeProduct;
  const [focused, setFocused] = useState('');
  const page = `/product/${answer.slug}`;
  const { locales, names, types, currency } = answer;
  const write = (changed: Fields) => store.set(changed);
  const set = (changed: Partial<WholeProduct>) => write(changed as Fields);
  const options = (of: Record<string, string>) => Object.entries(of).map(([value, label]) => ({ value, label }));
  return (
    <>
      <h3>Texts</h3>
      <Texts label="Name" field="name" {...{ record, locales, set: write }} />
      <Texts label="Summary" field="summary" rows={2} {...{ record, locales, set: write }} />
      <CustomFields {...props} />
      <div className="record-part" data-part="media">
        <RecordPictures
          media={product.media}
          options={product.options}
          locales={locales}
          onChange={(media) => set({ media })}
          onFiles={(files) => store.bring(files)}
        />
      </div>
      <h3>Attributes</h3>
      <div className="record-part" data-part="attributes">
        <Attributes attributes={product.attributes} page={page} onChange={(attributes) => set({ attributes })} />
      </div>
      <h3>Options and variants</h3>
      <div className="record-part" data-part="options">
        <OptionsForm product={product} set={set} />
      </div>
      <div className="record-part" data-part="variants">
        <Variants product={product} currency={currency} set={set} />
      </div>
      <h3>Where it belongs</h3>
      <SlugLine {...props} />
      <Line label="Type" part="type">
        <Input
          list="record-types"
          value={product.type}
          onFocus={() => setFocused('type')}
          onChange={(event) => set({ type: event.target.value })}
        />
        <datalist id="record-types">
          {types.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      </Line>
      {focused === 'type' && product.type && <NamedUses of="type" value={product.type} page={page} />}
      <Line label="Brand" part="brand">
        <Select
          allowClear
          showSearch={{ optionFilterProp: 'label' }}
          value={product.brand}
          placeholder="none"
          options={options(names.brand)}
          onChange={(brand: string | undefined) => set({ brand: brand ?? null })}
        />
      </Line>
      <Line label="Categories" part="categories">
        <MultiSelect
          showSearch={{ optionFilterProp: 'label' }}
          value={product.categories}
          placeholder="none"
          options={options(names.category)}
          onChange={(categories: string[]) => set({ categories })}
        />
      </Line>
      <Line label="Tags" part="tags">
        <MultiSelect
          showSearch={{ optionFilterProp: 'label' }}
          value={product.tags}
          placeholder="none"
          options={options(names.tag)}
          onChange={(tags: string[]) => set({ tags })}
        />
      </Line>
      <h3>Description</h3>
      <Texts label="Description" field="description" rich {...{ record, locales, set: write }} />
    </>
  );
}

interface AttributesProps {
  attributes: readonly Attribute[];
  page: string;
  onChange: (attributes: Attribute[]) => void;
}

/** Attributes in their order: added, moved, hidden from pages, and removed. */
function Attributes({ attributes, page, onChange }: AttributesProps) {
  const [focused, setFocused] = useState('');
  const [adding, setAdding] = useState('');
  const put = (at: number, changed: Partial<Attribute>) =>
    onChange(attributes.map((one, place) => (place === at ? { ...one, ...changed } : one)));
  const move = (at: number, step: number) => {
    const next = [...attributes];
    const [one] = next.splice(at, 1);
    if (one) next.splice(at + step, 0, one);
    onChange(next);
  };
  const taken = attributes.some(({ name }) => name === adding.trim());
  const add = () => {
    if (!adding.trim() || taken) return;
    onChange([...attributes, { name: adding.trim(), value: '', visible: true, texts: {} }]);
    setAdding('');
  };
  return (
    <>
      <ul className="record-attributes">
        {attributes.map(({ name, value, visible }, at) => (
          <li key={name}>
            <span>{name}</span>
            <Input
              aria-label={name}
              size="small"
              value={value}
              onFocus={() => setFocused(name)}
              onChange={(event) => put(at, { value: event.target.value })}
            />
            <Button
              size="small"
              type="text"
              aria-pressed={!visible}
              aria-label={visible ? `Hide ${name} from pages` : `Show ${name} on pages`}
              title={visible ? 'Shown on pages: hide it' : 'Hidden from pages: show it'}
              icon={visible ? <EyeOutlined aria-hidden /> : <EyeInvisibleOutlined aria-hidden />}
              onClick={() => put(at, { visible: !visible })}
            />
            <Button
              size="small"
              type="text"
              disabled={at === 0}
              aria-label={`Move ${name} up`}
              icon={<ArrowUpOutlined aria-hidden />}
              onClick={() => move(at, -1)}
            />
            <Button
              size="small"
              type="text"
              disabled={at === attributes.length - 1}
              aria-label={`Move ${name} down`}
              icon={<ArrowDownOutlined aria-hidden />}
              onClick={() => move(at, 1)}
            />
            <Button
              size="small"
              type="text"
              aria-label={`Remove ${name}`}
              icon={<DeleteOutlined aria-hidden />}
              onClick={() => onChange(attributes.filter((_, place) => place !== at))}
            />
            {focused === name && <NamedUses of="attribute" value={name} page={page} />}
          </li>
        ))}
      </ul>
      <div className="record-add">
        <Input
          size="small"
          aria-label="Name of another attribute"
          placeholder="Name of another attribute"
          status={taken ? 'error' : ''}
          value={adding}
          onChange={(event) => setAdding(event.target.value)}
          onPressEnter={add}
        />
        <Button size="small" icon={<PlusOutlined aria-hidden />} disabled={!adding.trim() || taken} onClick={add}>
          Add
        </Button>
      </div>
      {taken && <p className="quiet">It has an attribute “{adding.trim()}” already.</p>}
    </>
  );
}

interface VariantsProps {
  product: WholeProduct;
  currency: string;
  set: (changed: Partial<WholeProduct>) => void;
}

/** Figures of the variants, a row each. */
function Variants({ product, currency, set }: VariantsProps) {
  const put = (at: number, changed: Partial<WholeProduct['variants'][number]>) =>
    set({ variants: product.variants.map((one, place) => (place === at ? { ...one, ...changed } : one)) });
  const chosen = (values: Record<string, string>) =>
    product.options.flatMap(({ slug, values: known }) => known.find((one) => one.slug === values[slug])?.name ?? []);
  if (!product.variants.length) return <p className="quiet">It has no variant: it cannot be bought yet.</p>;
  return (
    <table className="record-variants">
      <thead>
        <tr>
          <th scope="col">Variant</th>
          <th scope="col">Price {currency}</th>
          <th scope="col">Before</th>
          <th scope="col">Stock</th>
          <th scope="col">
            <span className="unseen">Remove</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {product.variants.map(({ sku, name, price, wasPrice, stock, values }, at) => {
          const called = chosen(values).join(', ') || name || sku;
          return (
            <tr key={sku}>
              <th scope="row" title={sku}>
                {called}
              </th>
              <td>
                <MoneyField
                  label={`Price of ${called}`}
                  value={price}
                  currency={currency}
                  onChange={(next) => next !== null && put(at, { price: next })}
                />
              </td>
              <td>
                <MoneyField
                  label={`Price before of ${called}`}
                  value={wasPrice}
                  currency={currency}
                  onChange={(next) => put(at, { wasPrice: next })}
                />
              </td>
              <td>
                <Input
                  size="small"
                  aria-label={`Stock of ${called}`}
                  inputMode="numeric"
                  value={String(stock)}
                  onChange={(event) => {
                    const next = Number(event.target.value);
                    if (Number.isInteger(next)) put(at, { stock: next });
                  }}
                />
              </td>
              <td>
                <Button
                  size="small"
                  type="text"
                  aria-label={`Remove the variant ${called}`}
                  title={`Remove ${called}`}
                  icon={<DeleteOutlined aria-hidden />}
                  onClick={() => set({ variants: product.variants.filter((_, place) => place !== at) })}
                />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
