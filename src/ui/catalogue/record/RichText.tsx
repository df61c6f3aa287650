'use client';
import {
  BoldOutlined,
  CodeOutlined,
  ItalicOutlined,
  LinkOutlined,
  OrderedListOutlined,
  UnorderedListOutlined,
} from '@ant-design/icons';
import { Image } from '@tiptap/extension-image';
import { TableKit } from '@tiptap/extension-table';
import { DOMSerializer, DOMParser as PageParser } from '@tiptap/pm/model';
import { EditorContent, getSchema, useEditor, useEditorState, type Editor } from '@tiptap/react';
import { StarterKit } from '@tiptap/starter-kit';
import { Button, Input } from 'antd';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { lostIn, safeMarkup, tidyMarkup } from './markup';

interface Props {
  label: string;
  lang: string;
  value: string;
  placeholder: string;
  onChange: (markup: string) => void;
}

const extensions = [
  StarterKit.configure({
    link: { openOnClick: false, autolink: false, HTMLAttributes: { target: null, rel: null } },
    trailingNode: false,
  }),
  Image,
  TableKit,
];

const schema = getSchema(extensions);
/** So long what the editor sent may be on its way back to it, in milliseconds. */
const echoMs = 1000;
/** Texts on their way that are remembered. */
const maxSent = 40;

/** Markup as the editor would write it. */
function throughEditor(markup: string): string {
  const { body } = new DOMParser().parseFromString(safeMarkup(markup), 'text/html');
  const { content } = PageParser.fromSchema(schema).parse(body);
  const written = document.createElement('div');
  written.append(DOMSerializer.fromSchema(schema).serializeFragment(content));
  return written.innerHTML;
}

/** Rich text as it reads, or as its source. Text that the editor would take something out of is edited as source. */
export function RichText({ label, lang, value, placeholder, onChange }: Props) {
  const [asked, setAsked] = useState(false);
  const [written, setWritten] = useState<string | null>(null);
  /** What the editor sent, and when. */
  const sent = useRef(new Map<string, number>());
  // What the editor wrote it has kept.
  const lost = useMemo(
    () => (value === written || typeof document === 'undefined' ? [] : lostIn(safeMarkup(value), throughEditor(value))),
    [value, written],
  );
  const source = asked || lost.length > 0;
  const editor = useEditor({
    extensions,
    content: safeMarkup(value),
    immediatelyRender: false,
    editorProps: {
      attributes: { 'aria-label': label, role: 'textbox', 'aria-multiline': 'true', lang },
      transformPastedHTML: safeMarkup,
    },
    onUpdate: ({ editor: changed }) => {
      const markup = tidyMarkup(changed.getHTML());
      if (sent.current.size > maxSent) sent.current.clear();
      sent.current.set(markup, performance.now());
      setWritten(markup);
      onChange(markup);
    },
  });
  // Texts come from elsewhere too: as source, undone, or taken over from someone else. What was written here a moment ago only comes back late.
  useEffect(() => {
    if (!editor || performance.now() - (sent.current.get(value) ?? -Infinity) < echoMs) return;
    sent.current.clear();
    if (tidyMarkup(editor.getHTML()) !== value) editor.commands.setContent(safeMarkup(value), { emitUpdate: false });
  }, [editor, value]);
  return (
    <div className="rich" data-source={source || undefined}>
      <div className="rich-tools" role="toolbar" aria-label={`Style of ${label}`}>
        {editor && !source && <Tools editor={editor} />}
        <Button
          size="small"
          type="text"
          className="rich-source"
          aria-pressed={source}
          title="As source"
          aria-label={`Source of ${label}`}
          icon={<CodeOutlined aria-hidden />}
          disabled={lost.length > 0}
          onClick={() => setAsked(!source)}
        />
      </div>
      {source ? (
        <Input.TextArea
          autoSize={{ minRows: 4, maxRows: 16 }}
          aria-label={label}
          lang={lang}
          value={value}
          placeholder={placeholder}
          spellCheck={false}
          className="rich-text"
          onChange={(event) => {
            setAsked(true);
            onChange(event.target.value);
          }}
        />
      ) : (
        <EditorContent editor={editor} className="rich-area" data-empty={value === '' ? placeholder : undefined} />
      )}
      {lost.length > 0 && <p className="quiet">As source, since the editor would drop {lost.join(', ')}.</p>}
    </div>
  );
}

const blocks: [name: string, label: string, level: 2 | 3 | 4 | null][] = [
  ['p', 'Text', null],
  ['2', 'Heading 2', 2],
  ['3', 'Heading 3', 3],
  ['4', 'Heading 4', 4],
];

function Tools({ editor }: { editor: Editor }) {
  const [address, setAddress] = useState<string | null>(null);
  const is = useEditorState({
    editor,
    selector: ({ editor: now }) => ({
      bold: now.isActive('bold'),
      italic: now.isActive('italic'),
      link: now.isActive('link'),
      bullets: now.isActive('bulletList'),
      numbers: now.isActive('orderedList'),
      block: blocks.find(([, , level]) => level !== null && now.isActive('heading', { level }))?.[0] ?? 'p',
    }),
  });
  const chain = () => editor.chain().focus();
  const tool = (label: string, on: boolean, icon: ReactNode, act: () => void) => (
    <Button
      key={label}
      size="small"
      type="text"
      aria-label={label}
      aria-pressed={on}
      title={label}
      icon={icon}
      onMouseDown={(event) => event.preventDefault()}
      onClick={act}
    />
  );
  const link = () => {
    const href = address?.trim() ?? '';
    if (href) chain().extendMarkRange('link').setLink({ href }).run();
    else chain().extendMarkRange('link').unsetLink().run();
    setAddress(null);
  };
  if (address !== null)
    return (
      <Input
        size="small"
        autoFocus
        aria-label="Address of the link"
        placeholder="/content/… or https://…, Enter"
        value={address}
        onChange={(event) => setAddress(event.target.value)}
        onPressEnter={link}
        onBlur={() => setAddress(null)}
        onKeyDown={(event) => {
          if (event.key !== 'Escape') return;
          event.stopPropagation();
          setAddress(null);
        }}
      />
    );
  return (
    <>
      <select
        aria-label="Kind of block"
        value={is.block}
        onChange={({ target }) => {
          const level = blocks.find(([name]) => name === target.value)?.[2] ?? null;
          if (level === null) chain().setParagraph().run();
          else chain().setHeading({ level }).run();
        }}
      >
        {blocks.map(([name, label]) => (
          <option key={name} value={name}>
            {label}
          </option>
        ))}
      </select>
      {tool('Bold (Ctrl B)', is.bold, <BoldOutlined aria-hidden />, () => chain().toggleBold().run())}
      {tool('Italic (Ctrl I)', is.italic, <ItalicOutlined aria-hidden />, () => chain().toggleItalic().run())}
      {tool('Link', is.link, <LinkOutlined aria-hidden />, () =>
        setAddress(String(editor.getAttributes('link').href ?? '')),
      )}
      {tool('List', is.bullets, <UnorderedListOutlined aria-hidden />, () => chain().toggleBulletList().run())}
      {tool('Numbered list', is.numbers, <OrderedListOutlined aria-hidden />, () => chain().toggleOrderedList().run())}
    </>
  );
}
