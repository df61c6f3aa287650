'use client';
import { useMutation, useQuery } from '@tanstack/react-query';
import { Alert, Button, Form, Input, Modal, Skeleton } from 'antd';
import { useState } from 'react';
import { alternateEndpoints, type AlternatesTarget, type TargetItem, type TemplateItem } from '@/contract/alternates';
import type { SubjectItem, SubjectKind } from '@/contract/shared';
import { call, messageOf, SubjectsField, MultiSelect } from '@/ui/shared';
import { Sign } from './Sign';
import { useEdits } from './useEdits';

interface Props {
  draft: string;
  target: TargetItem;
  item: AlternatesTarget;
  noun: string;
  template: TemplateItem | null;
  onClose: () => void;
}

/** Pins subjects to a template, picked by name. */
export function PinDialog({ draft, target, noun, template, onClose }: Props) {
  const [chosen, setChosen] = useState<SubjectItem[]>([]);
  const edits = useEdits(draft);
  return (
    <Modal
      title={template ? `Pin ${noun} to “${template.label}”` : ''}
      open={template !== null}
      onCancel={onClose}
      okText={chosen.length === 1 ? 'Pin it' : `Pin ${chosen.length || ''}`.trim()}
      cancelText="Not now"
      okButtonProps={{ disabled: chosen.length === 0, loading: edits.isPending }}
      onOk={() =>
        edits.edit(
          { do: 'pin', ...target, slugs: chosen.map(({ slug }) => slug), alternate: template?.name ?? null },
          `${chosen.length === 1 ? chosen[0]?.name : `${chosen.length} ${noun}`} pinned to ${template?.label}.`,
          () => {
            setChosen([]);
            onClose();
          },
        )
      }
      destroyOnHidden
    >
      <label className="field" htmlFor="pin-subjects">
        {`Which ${noun}?`}
      </label>
      <SubjectsField id="pin-subjects" kind={target.kind as SubjectKind} value={chosen} onChange={setChosen} />
      <p className="quiet">One that is pinned elsewhere moves here. Nothing is live before you publish.</p>
    </Modal>
  );
}

interface Fields {
  label: string;
  name: string;
  note: string;
  types: string[];
}

/** Label, note and types of an alternate, and its name: what is assigned to it follows a new one. */
export function DescribeDialog({
  draft,
  target,
  template,
  types,
  onClose,
}: Omit<Props, 'item' | 'noun'> & { types: string[] }) {
  const [form] = Form.useForm<Fields>();
  const edits = useEdits(draft);
  const save = useMutation({
    mutationFn: async ({ label, name, note, types: meant }: Fields) => {
      if (!template) return;
      const { label: was, note: wasNote, types: wasTypes } = template;
      if (label !== was || note !== wasNote || JSON.stringify(meant) !== JSON.stringify(wasTypes))
        await edits.mutateAsync({
          does: 'edit',
          body: { edit: { do: 'describe', ...target, name: template.name, label, note, types: meant } },
          says: 'Described.',
        });
      if (name !== template.name)
        await edits.mutateAsync({
          does: 'rename',
          body: { ...target, name: template.name, to: name },
          says: `Renamed to ${name}.`,
        });
    },
    onSuccess: onClose,
  });
  return (
    <Modal
      title={template ? `Describe “${template.label}”` : ''}
      open={template !== null}
      onCancel={onClose}
      onOk={() => form.submit()}
      okText="Save"
      cancelText="Cancel"
      confirmLoading={save.isPending}
      destroyOnHidden
    >
      {save.isError && <Alert type="error" showIcon title={messageOf(save.error)} />}
      {template && (
        <Form<Fields>
          form={form}
          layout="vertical"
          requiredMark={false}
          initialValues={{ label: template.label, name: template.name, note: template.note, types: template.types }}
          onFinish={(fields) => save.mutate(fields)}
        >
          <Form.Item
            label="Label"
            name="label"
            rules={[{ required: true, whitespace: true, message: 'Give it a label' }]}
          >
            <Input maxLength={80} />
          </Form.Item>
          <Form.Item
            label="Name of its file"
            name="name"
            extra="Its pins, its rules and the files that name it follow"
            rules={[
              { required: true, message: 'Give it a name' },
              {
                pattern: /^[a-z0-9]+(?:-[a-z0-9]+)*$/,
                message: 'Small letters, digits and single hyphens: cut-length',
              },
            ]}
          >
            <Input maxLength={60} />
          </Form.Item>
          {target.kind === 'product' && (
            <Form.Item label="Meant for products of type" name="types">
              <MultiSelect placeholder="all types" options={types.map((value) => ({ value, label: value }))} />
            </Form.Item>
          )}
          <Form.Item label="Note" name="note">
            <Input.TextArea autoSize={{ minRows: 2, maxRows: 4 }} maxLength={500} />
          </Form.Item>
        </Form>
      )}
    </Modal>
  );
}

/** Takes an alternate out, after saying who gets what instead. */
export function RetireDialog({ draft, target, item, noun, template, onClose }: Props) {
  const edits = useEdits(draft);
  const fall = useQuery({
    queryKey: ['fall', draft, target, template?.name],
    queryFn: () => call(alternateEndpoints.fall, { draft }, { ...target, name: template?.name ?? '' }),
    enabled: template !== null,
    gcTime: 0,
  });
  const labels = new Map(item.templates.map((one, at) => [one.file.replace(/\.html$/, ''), { label: one.label, at }]));
  const labelOf = (name: string) => labels.get(name)?.label ?? name;
  return (
    <Modal
      title={template ? `Retire “${template.label}”?` : ''}
      open={template !== null}
      onCancel={onClose}
      footer={[
        <Button key="no" onClick={onClose}>
          Keep it
        </Button>,
        <Button
          key="yes"
          danger
          type="primary"
          disabled={!fall.data}
          loading={edits.isPending}
          onClick={() =>
            edits.mutate(
              {
                does: 'retire',
                body: { ...target, name: template?.name ?? '' },
                says: `“${template?.label}” is retired.`,
              },
              { onSuccess: onClose },
            )
          }
        >
          Retire it
        </Button>,
      ]}
      destroyOnHidden
    >
      {fall.isError && <Alert type="error" showIcon title={messageOf(fall.error)} />}
      {fall.isLoading && <Skeleton active title={false} />}
      {fall.data && (
        <>
          <p>
            {fall.data.count === 0
              ? 'Nobody gets it.'
              : `${fall.data.count} ${noun} get it, and fall back: ${fall.data.to.map((one) => `${one.count} to ${labelOf(one.template)}`).join(', ')}.`}{' '}
            Its pins, its rules and its file in the shop’s layer go with it; the history keeps them.
          </p>
          <ul className="fall-list" tabIndex={0} aria-label="Who falls back">
            {fall.data.rows.map((row) => (
              <li key={`${row.slug} ${row.view ?? ''}`}>
                <span>
                  {row.name} <small>{row.view ? `as ${row.view}` : row.detail}</small>
                </span>
                <span className="who-gets">
                  <Sign at={labels.get(row.template)?.at ?? 0} size={13} /> {labelOf(row.template)}
                </span>
              </li>
            ))}
          </ul>
          {fall.data.count > fall.data.rows.length && (
            <p className="quiet">and {fall.data.count - fall.data.rows.length} more</p>
          )}
        </>
      )}
    </Modal>
  );
}
