'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Input, Select, Switch } from 'antd';
import { recordEndpoints, type FieldItem } from '@/contract/records';
import { isFieldSubject, type FieldShape, type FieldSubject } from '@/core/catalogue';
import type { WholeProduct } from '@/core/exchange';
import { call, MultiSelect } from '@/ui/shared';
import { isHideable } from '../kinds';
import { CustomFields } from './CustomFields';
import { canBeSeveral, fieldTypes } from './field-types';
import { type FormProps, languageName, Line, Texts } from './fields';
import { MenuForm } from './MenuForm';
import { ProductForm } from './ProductForm';
import { RecordPictures } from './RecordPictures';
import type { Fields } from './record-store';
import { SlugLine } from './SlugLine';
import { UsedBy } from './UsedBy';

/** All parts of a record, by its kind. */
export function RecordForm(props: FormProps) {
  return (
    <>
      {isHideable(props.answer.kind) && <LiveLine {...props} />}
      <Parts {...props} />
    </>
  );
}

/** Whether customers see it. */
function LiveLine({ store, record }: FormProps) {
  const live = record.live !== false;
  return (
    <label className="record-live" data-out={!live || undefined}>
      <Switch size="small" checked={live} onChange={(on) => store.set({ live: on })} />
      {live ? 'Customers see it' : 'Not live yet: seen in drafts only'}
    </label>
  );
}

function Parts(props: FormProps) {
  switch (props.answer.kind) {
    case 'product':
      return <ProductForm {...props} />;
    case 'category':
      return <CategoryForm {...props} />;
    case 'content':
    case 'article':
      return <PageForm {...props} />;
    case 'tag':
    case 'brand':
      return <TermForm {...props} />;
    case 'field':
      return <FieldForm {...props} />;
    case 'menu':
      return <MenuForm {...props} />;
    case 'shop':
      return <ShopForm {...props} />;
    case 'redirect':
      return <RedirectForm {...props} />;
  }
}

/** What categories and pages end with: custom fields, pictures and the address. */
function Rest(props: FormProps) {
  const { store, answer, record } = props;
  return (
    <>
      <CustomFields {...props} />
      <div className="record-part" data-part="media">
        <RecordPictures
          media={(record.media ?? []) as WholeProduct['media']}
          locales={answer.locales}
          onChange={(media) => store.set({ media })}
          onFiles={(files) => store.bring(files)}
        />
      </div>
      <h3>Its address</h3>
      <SlugLine {...props} />
    </>
  );
}

function CategoryForm(props: FormProps) {
  const { store, answer, record } = props;
  const set = (changed: Fields) => store.set(changed);
  return (
    <>
      <Texts label="Name" field="name" {...{ record, set }} locales={answer.locales} />
      <Texts label="Summary" field="summary" rows={2} {...{ record, set }} locales={answer.locales} />
      <Texts label="Description" field="description" rich {...{ record, set }} locales={answer.locales} />
      <Rest {...props} />
    </>
  );
}

function PageForm(props: FormProps) {
  const { store, answer, record } = props;
  const set = (changed: Fields) => store.set(changed);
  return (
    <>
      <Texts label="Title" field="title" {...{ record, set }} locales={answer.locales} />
      <Texts label="Summary" field="summary" rows={2} {...{ record, set }} locales={answer.locales} />
      <Texts label="Text" field="body" rich {...{ record, set }} locales={answer.locales} />
      <Line label={answer.kind === 'article' ? 'Published' : 'Added'} part="added">
        <Input type="date" value={String(record.added ?? '')} onChange={({ target }) => set({ added: target.value })} />
      </Line>
      <Rest {...props} />
    </>
  );
}

function TermForm(props: FormProps) {
  const { store, answer, record } = props;
  const set = (changed: Fields) => store.set(changed);
  const isTag = answer.kind === 'tag';
  return (
    <>
      <Texts
        label="Name"
        field="name"
        {...{ record, set }}
        locales={isTag ? answer.locales : answer.locales.slice(0, 1)}
      />
      {!isTag && <Texts label="Summary" field="summary" rows={3} {...{ record, set }} locales={answer.locales} />}
      <h3>Its address</h3>
      <SlugLine {...props} />
    </>
  );
}

function FieldForm({ store, answer: { slug }, record }: FormProps) {
  const [of = '', key = ''] = slug.split(' ');
  const subject = isFieldSubject(of) ? of : 'product';
  const { type = 'text', several = false, choices = [], help = '' } = record as Partial<FieldItem>;
  return (
    <>
      <Line label="Name">
        <Input value={String(record.name ?? '')} onChange={({ target }) => store.set({ name: target.value })} />
      </Line>
      <div className="record-line">
        <span>In templates</span>
        <code>{`${subject}.fields.${key}`}</code>
      </div>
      <Line label="Type">
        <Select value={type} options={fieldTypes} onChange={(next: FieldItem['type']) => store.set({ type: next })} />
      </Line>
      {canBeSeveral(type) && (
        <div className="record-line">
          <span>Several values</span>
          <Switch aria-label="Several values" checked={several} onChange={(next) => store.set({ several: next })} />
        </div>
      )}
      {type === 'text' && (
        <div className="record-line">
          <span>Choices</span>
          <MultiSelect
            mode="tags"
            aria-label="Choices"
            placeholder="any text"
            tokenSeparators={['\n', ';']}
            open={false}
            value={choices}
            onChange={(next: string[]) => store.set({ choices: next })}
          />
        </div>
      )}
      <Misfits subject={subject} of={key} shape={{ type, several, choices }} />
      <Line label="Unit">
        <Input
          value={String(record.unit ?? '')}
          placeholder="none"
          onChange={({ target }) => store.set({ unit: target.value })}
        />
      </Line>
      <Line label="Help">
        <Input
          value={help}
          placeholder="none: said under the field to who fills it in"
          onChange={({ target }) => store.set({ help: target.value })}
        />
      </Line>
      <UsedBy kind={subject} part={`fields.${key}`} slug="" />
    </>
  );
}

/** Values that are there and do not fit the type: they stay, and are shown, until they are written again. */
function Misfits({ subject, of, shape }: { subject: FieldSubject; of: string; shape: FieldShape }) {
  const { type, several } = shape;
  const choices = shape.choices.join('\n');
  const { data } = useQuery({
    queryKey: ['misfits', subject, of, type, several, choices],
    queryFn: () =>
      call(recordEndpoints.misfits, { subject, key: of, type, several: several ? 'true' : 'false', choices }),
  });
  if (!data?.count) return null;
  const { count, examples } = data;
  return (
    <Alert
      type="warning"
      showIcon
      title={`${count.toLocaleString('en')} ${count === 1 ? 'value does' : 'values do'} not fit. None is lost: each stays until it is written again.`}
      description={
        examples.map(({ slug, value }) => `${slug}: “${value.slice(0, 40)}”`).join(', ') +
        (count > examples.length ? ', …' : '')
      }
    />
  );
}

function RedirectForm({ store, record }: FormProps) {
  return (
    <>
      <div className="record-line">
        <span>From</span>
        <code>{String(record.path ?? '')}</code>
      </div>
      <Line label="To">
        <Input
          value={String(record.target ?? '')}
          placeholder="/content/… or https://…"
          onChange={({ target }) => store.set({ target: target.value })}
        />
      </Line>
      <p className="quiet">
        Visitors who follow the first address are sent to the second (301, moved permanently), in the same language. If
        a page has the first address, that page is shown instead.
      </p>
    </>
  );
}

function ShopForm({ store, answer, record }: FormProps) {
  return (
    <>
      <Line label="Name">
        <Input value={String(record.name ?? '')} onChange={({ target }) => store.set({ name: target.value })} />
      </Line>
      <Line label="E-mail">
        <Input
          type="email"
          value={String(record.email ?? '')}
          placeholder="where customers write to"
          onChange={({ target }) => store.set({ email: target.value })}
        />
      </Line>
      <Line label="Languages">
        <MultiSelect
          mode="tags"
          value={(record.locales ?? []) as string[]}
          options={['en-GB', 'en', 'de', 'fr', 'es', 'it', 'nl', 'pl', 'ar', 'he', 'zh-Hans', 'ja'].map((value) => ({
            value,
            label: `${languageName(value)} (${value})`,
          }))}
          onChange={(locales: string[]) =>
            store.set({ locales: [answer.locales[0] ?? '', ...locales.filter((one) => one !== answer.locales[0])] })
          }
        />
      </Line>
      <p className="quiet">
        Texts stand in {languageName(answer.locales[0] ?? 'en')} first; prices in {answer.currency}. Both were settled
        when the shop was started: figures that are there would mean something else.
      </p>
    </>
  );
}
