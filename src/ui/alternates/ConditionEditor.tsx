'use client';
import { CloseOutlined, PlusOutlined } from '@ant-design/icons';
import { Button, Input, InputNumber, Select } from 'antd';
import type { FactItem, FactsOfKind } from '@/contract/alternates';
import { groupOf, testsOf, type Condition, type GroupName, type Leaf, type Test } from '@/core/alternates';
import { MultiSelect } from '@/ui/shared';

const groupNames: Record<GroupName, string> = {
  all: 'all of these hold',
  any: 'any of these holds',
  not: 'none of these holds',
};

const testNames: Record<Test, string> = {
  is: 'is one of',
  begins: 'begins with',
  contains: 'contains',
  'at-least': 'is at least',
  'at-most': 'is at most',
  equals: 'is exactly',
  since: 'is on or after',
  until: 'is on or before',
  last: 'is in the last',
  filled: 'is filled',
  empty: 'is empty',
  yes: 'is yes',
  no: 'is no',
};

const keyOf = ({ fact, name }: { fact: string; name?: string | null | undefined }): string =>
  name ? `${fact} ${name}` : fact;
const groupWith = (name: GroupName, parts: Condition[]): Condition => ({ [name]: parts }) as Condition;

/** A question about a fact, as it begins. */
function beginning(fact: FactItem, test: Test = testsOf[fact.type][0] as Test): Leaf {
  const named = { fact: fact.fact, ...(fact.name === null ? {} : { name: fact.name }) };
  switch (test) {
    case 'is':
      return { ...named, test, value: [] };
    case 'begins':
    case 'contains':
      return { ...named, test, value: '' };
    case 'at-least':
    case 'at-most':
    case 'equals':
      return { ...named, test, value: 0 };
    case 'since':
    case 'until':
      return { ...named, test, value: '' };
    case 'last':
      return { ...named, test, value: 30 };
    default:
      return { ...named, test };
  }
}

/** A condition without what is not filled in yet: what can be matched while it is being made. Null when nothing is left of it. */
function filledPart(of: Condition): Condition | null {
  const group = groupOf(of);
  if (!group) {
    const leaf = of as Leaf;
    return 'value' in leaf && (leaf.value === '' || (Array.isArray(leaf.value) && !leaf.value.length)) ? null : leaf;
  }
  const parts = group.parts.map(filledPart).filter((part) => part !== null);
  return parts.length ? groupWith(group.name, parts) : null;
}

/** The same; what asks nothing holds always. */
export const filledIn = (of: Condition): Condition => filledPart(of) ?? { all: [] };

/** How many questions, and groups without any, are not filled in. */
export function unfilled(of: Condition, inside = false): number {
  const group = groupOf(of);
  if (!group) return filledPart(of) ? 0 : 1;
  if (!group.parts.length) return inside ? 1 : 0;
  return group.parts.reduce((sum, part) => sum + unfilled(part, true), 0);
}

interface Props {
  of: Condition;
  facts: FactsOfKind;
  onChange: (condition: Condition) => void;
}

/** A condition's groups and questions, to be changed: over what there really is in the catalogue. */
export function ConditionEditor({ of, facts, onChange }: Props) {
  const group = groupOf(of) ?? { name: 'all' as const, parts: [of] };
  return <GroupEditor name={group.name} parts={group.parts} facts={facts} depth={0} onChange={onChange} />;
}

interface GroupProps {
  name: GroupName;
  parts: Condition[];
  facts: FactsOfKind;
  depth: number;
  onChange: (condition: Condition) => void;
  onRemove?: () => void;
}

function GroupEditor({ name, parts, facts, depth, onChange, onRemove }: GroupProps) {
  const put = (at: number, part: Condition | null) =>
    onChange(
      groupWith(
        name,
        part === null
          ? parts.filter((_, place) => place !== at)
          : parts.map((one, place) => (place === at ? part : one)),
      ),
    );
  const add = (part: Condition) => onChange(groupWith(name, [...parts, part]));
  const [first] = facts.facts;
  return (
    <fieldset className="condition-group" data-group={name}>
      <legend>
        <Select
          size="small"
          aria-label="How these go together"
          value={name}
          popupMatchSelectWidth={false}
          options={Object.entries(groupNames).map(([value, label]) => ({ value: value as GroupName, label }))}
          onChange={(next: GroupName) => onChange(groupWith(next, parts))}
        />
        {onRemove && (
          <Button size="small" type="text" icon={<CloseOutlined />} aria-label="Remove this group" onClick={onRemove} />
        )}
      </legend>
      {parts.map((part, at) => {
        const inner = groupOf(part);
        return inner ? (
          <GroupEditor
            key={at}
            name={inner.name}
            parts={inner.parts}
            facts={facts}
            depth={depth + 1}
            onChange={(next) => put(at, next)}
            onRemove={() => put(at, null)}
          />
        ) : (
          <LeafEditor
            key={at}
            leaf={part as Leaf}
            facts={facts}
            onChange={(next) => put(at, next)}
            onRemove={() => put(at, null)}
          />
        );
      })}
      {!parts.length && (
        <p className="quiet">{depth ? 'Nothing is asked yet.' : 'Nothing is asked: it always holds.'}</p>
      )}
      <p className="condition-add">
        <Button size="small" icon={<PlusOutlined />} disabled={!first} onClick={() => first && add(beginning(first))}>
          Ask something
        </Button>
        {depth < 6 && (
          <Button size="small" type="text" icon={<PlusOutlined />} onClick={() => add({ any: [] })}>
            A group
          </Button>
        )}
      </p>
    </fieldset>
  );
}

interface LeafProps {
  leaf: Leaf;
  facts: FactsOfKind;
  onChange: (leaf: Leaf) => void;
  onRemove: () => void;
}

function LeafEditor({ leaf, facts, onChange, onRemove }: LeafProps) {
  const fact = facts.facts.find((one) => keyOf({ fact: one.fact, name: one.name }) === keyOf(leaf));
  const groups = [
    { label: 'It has', facts: facts.facts.filter((one) => one.fact !== 'attribute' && one.fact !== 'field') },
    { label: 'Custom fields', facts: facts.facts.filter((one) => one.fact === 'field') },
    { label: 'Attributes', facts: facts.facts.filter((one) => one.fact === 'attribute') },
  ].filter((one) => one.facts.length);
  const choose = (key: string) => {
    const next = facts.facts.find((one) => keyOf({ fact: one.fact, name: one.name }) === key);
    if (next) onChange(beginning(next));
  };
  return (
    <div className="condition-leaf">
      <Select
        size="small"
        className="leaf-fact"
        aria-label="What is asked"
        showSearch={{ optionFilterProp: 'label' }}
        value={fact ? keyOf({ fact: fact.fact, name: fact.name }) : (`${keyOf(leaf)} (gone)` as string)}
        status={fact ? '' : 'error'}
        popupMatchSelectWidth={240}
        options={groups.map(({ label, facts: some }) => ({
          label,
          options: some.map((one) => ({
            value: keyOf({ fact: one.fact, name: one.name }),
            label: one.label.replace(/^attribute /, ''),
          })),
        }))}
        onChange={choose}
      />
      <Select
        size="small"
        className="leaf-test"
        aria-label="How it is asked"
        value={leaf.test}
        popupMatchSelectWidth={false}
        status={fact && !testsOf[fact.type].includes(leaf.test) ? 'error' : ''}
        options={(fact ? testsOf[fact.type] : [leaf.test]).map((test) => ({ value: test, label: testNames[test] }))}
        onChange={(test: Test) => {
          if (!fact) return;
          const next = beginning(fact, test);
          const keeps =
            'value' in next &&
            'value' in leaf &&
            typeof next.value === typeof leaf.value &&
            Array.isArray(next.value) === Array.isArray(leaf.value);
          onChange(keeps ? ({ ...next, value: leaf.value } as Leaf) : next);
        }}
      />
      <ValueEditor leaf={leaf} fact={fact ?? null} currency={facts.currency} onChange={onChange} />
      <Button size="small" type="text" icon={<CloseOutlined />} aria-label="Remove this question" onClick={onRemove} />
    </div>
  );
}

/** Decimal places of a currency (ISO 4217, by CLDR). */
const digitsOf = (currency: string): number =>
  new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ?? 2;

function ValueEditor({
  leaf,
  fact,
  currency,
  onChange,
}: {
  leaf: Leaf;
  fact: FactItem | null;
  currency: string;
  onChange: (leaf: Leaf) => void;
}) {
  switch (leaf.test) {
    case 'is': {
      const known = fact?.options ?? null;
      // What a rule names and is gone stays in sight, so that it can be taken out.
      const gone = known ? leaf.value.filter((value) => !known.some((one) => one.value === value)) : [];
      return (
        <MultiSelect
          size="small"
          className="leaf-value"
          aria-label="Which"
          mode={known ? 'multiple' : 'tags'}
          placeholder={known ? 'Choose one or several' : 'Type, then Enter'}
          value={leaf.value}
          showSearch={{ optionFilterProp: 'label' }}
          maxTagCount="responsive"
          options={[...(known ?? []), ...gone.map((value) => ({ value, label: `${value} (gone)` }))]}
          onChange={(value: string[]) => onChange({ ...leaf, value })}
        />
      );
    }
    case 'begins':
    case 'contains':
      return (
        <Input
          size="small"
          className="leaf-value"
          aria-label="Text"
          maxLength={200}
          value={leaf.value}
          onChange={(event) => onChange({ ...leaf, value: event.target.value })}
        />
      );
    case 'at-least':
    case 'at-most':
    case 'equals': {
      const minor = fact?.type === 'money' ? 10 ** digitsOf(currency) : 1;
      return (
        <InputNumber
          size="small"
          className="leaf-value"
          aria-label="Number"
          value={leaf.value / minor}
          suffix={fact?.type === 'money' ? currency : fact?.unit}
          {...(minor > 1 ? { precision: digitsOf(currency) } : {})}
          onChange={(value) => onChange({ ...leaf, value: Math.round((value ?? 0) * minor * 1e6) / 1e6 })}
        />
      );
    }
    case 'since':
    case 'until':
      return (
        <Input
          size="small"
          type="date"
          className="leaf-value"
          aria-label="Day"
          value={leaf.value}
          onChange={(event) => onChange({ ...leaf, value: event.target.value })}
        />
      );
    case 'last':
      return (
        <InputNumber
          size="small"
          className="leaf-value"
          aria-label="Days"
          min={1}
          max={3660}
          precision={0}
          value={leaf.value}
          suffix="days"
          onChange={(value) => onChange({ ...leaf, value: value ?? 1 })}
        />
      );
    default:
      return <span className="leaf-value" />;
  }
}
