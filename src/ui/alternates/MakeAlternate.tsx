'use client';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Alert, Form, Input, Modal, Radio, Select } from 'antd';
import { useRef } from 'react';
import {
  alternateEndpoints,
  type MakeAlternateRequest,
  type TargetItem,
  type TemplateItem,
} from '@/contract/alternates';
import type { LayerItem } from '@/contract/shared';
import { call, draftChanged, messageOf, useDone, MultiSelect } from '@/ui/shared';
import { useAlternates } from './useEdits';

interface Props {
  draft: string;
  target: TargetItem;
  /** Template of the target that it starts from. */
  from: string;
  open: boolean;
  onClose: () => void;
  /** Called when it was made and the dialog is gone. */
  onMade: (name: string) => void;
}

interface Fields {
  label: string;
  name: string;
  from: string;
  types: string[];
  note: string;
  as: MakeAlternateRequest['as'];
}

const nameOf = (label: string): string =>
  label
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60);

const nameOfLayer = ({ kind, name }: LayerItem): string =>
  kind === 'shop' ? 'shop’s' : kind === 'base' ? 'base’s' : `${name} add-on’s`;

/** What a copy of a template would lack: layers above may change the file that it is a copy of. */
function changedAbove({ file, layer, amends, whole }: TemplateItem): string | null {
  if (amends === null || !layer || !whole) return null;
  return `The ${nameOfLayer(layer)} layer changes ${file} by an amendment. Only changes to it take those along; a copy is of the ${nameOfLayer(whole)} file as it is.`;
}

/** Makes an alternate: a label, from it a name, and the template to begin with. */
export function MakeAlternate({ draft, target, from, open, onClose, onMade }: Props) {
  const [form] = Form.useForm<Fields>();
  const queries = useQueryClient();
  const newName = useRef<string | null>(null);
  /** Whether the name was written by hand: it follows the label until then. */
  const ownName = useRef(false);
  const overview = useAlternates(draft, open);
  const { kind, piece } = target;
  const done = useDone(draft);
  const make = useMutation({
    mutationFn: (fields: Fields) =>
      call(alternateEndpoints.make, { draft }, {
        ...fields,
        note: fields.note ?? '',
        types: fields.types ?? [],
        ...target,
      } satisfies MakeAlternateRequest),
    onSuccess: ({ change }, { name, label }) => {
      done(`“${label}” was made.`, change);
      void draftChanged(queries, draft);
      newName.current = name;
      onClose();
    },
  });
  const item = overview.data?.targets.find((one) => one.key === (piece ?? kind));
  const templates = item?.templates.filter((one) => one.layer) ?? [];
  const start = Form.useWatch('from', form) ?? from;
  const source = templates.find((one) => one.name === start);
  return (
    <Modal
      title={piece === undefined ? `New alternate for ${kind} pages` : `New alternate of ${piece}`}
      open={open}
      onCancel={onClose}
      onOk={() => form.submit()}
      okText="Make it"
      cancelText="Cancel"
      confirmLoading={make.isPending}
      afterOpenChange={(now) => {
        // Who was quicker than the dialog types already.
        if (!now || document.activeElement?.closest('form')) return;
        setTimeout(() => (form.getFieldInstance('label') as { focus(): void } | undefined)?.focus(), 0);
      }}
      // What comes next opens when this is gone: the focus goes back to where it was only then.
      afterClose={() => {
        make.reset();
        ownName.current = false;
        if (newName.current !== null) onMade(newName.current);
        newName.current = null;
      }}
      destroyOnHidden
    >
      {make.isError && <Alert type="error" showIcon title={messageOf(make.error)} />}
      <Form<Fields>
        form={form}
        className="tight"
        layout="vertical"
        // What was typed goes with the dialog: the next one begins with the values of its template.
        preserve={false}
        initialValues={{ from, as: 'copy' }}
        onFinish={(fields) => make.mutate(fields)}
        onValuesChange={(changed) => {
          if (changed.name !== undefined) ownName.current = changed.name !== '';
          if (changed.label !== undefined && !ownName.current) form.setFieldValue('name', nameOf(changed.label));
        }}
        requiredMark={false}
      >
        <Form.Item
          label="Label"
          name="label"
          rules={[{ required: true, whitespace: true, message: 'Give it a label' }]}
        >
          <Input placeholder="Cut to length" maxLength={80} />
        </Form.Item>
        <Form.Item
          label="Name of its file"
          name="name"
          extra={`${piece ?? kind}/….html, in the shop’s layer`}
          rules={[
            { required: true, message: 'Give it a name' },
            { pattern: /^[a-z0-9]+(?:-[a-z0-9]+)*$/, message: 'Small letters, digits and single hyphens: cut-length' },
          ]}
        >
          <Input placeholder="cut-length" maxLength={60} />
        </Form.Item>
        <Form.Item label="Starts from" name="from" rules={[{ required: true }]}>
          <Select
            options={templates.map((one) => ({ value: one.name, label: one.label }))}
            loading={overview.isLoading}
          />
        </Form.Item>
        <Form.Item name="as" label="As" extra={source && changedAbove(source)}>
          <Radio.Group
            className="stacked"
            options={[
              { value: 'changes', label: 'changes to it: what it does not change follows it' },
              {
                value: 'copy',
                label:
                  source?.amends && source.whole
                    ? `a whole file of its own: a copy of the ${nameOfLayer(source.whole)} file`
                    : 'a whole file of its own: a copy of it',
              },
              { value: 'empty', label: 'an empty file' },
            ]}
          />
        </Form.Item>
        {kind === 'product' && (
          <Form.Item label="Meant for products of type" name="types">
            <MultiSelect
              placeholder="all types"
              options={(overview.data?.types ?? []).map((value) => ({ value, label: value }))}
            />
          </Form.Item>
        )}
        <Form.Item label="Note" name="note">
          <Input.TextArea autoSize={{ minRows: 2, maxRows: 4 }} maxLength={500} placeholder="When to use it" />
        </Form.Item>
      </Form>
    </Modal>
  );
}
