'use client';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Button, Input, Modal, Skeleton } from 'antd';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { draftEndpoints, type DraftItem, type DraftsAnswer } from '@/contract/drafts';
import { call, messageOf, setAuthorName, useAuthor, When, useMe } from '@/ui/shared';

interface Props {
  draft: string;
  drafts: DraftsAnswer | undefined;
  onCompare: (slug: string) => void;
}

/** The drafts there are, and those that were deleted. */
export function Drafts({ draft, drafts, onCompare }: Props) {
  const { message } = App.useApp();
  const router = useRouter();
  const queries = useQueryClient();
  const author = useAuthor();
  const { signedIn } = useMe();
  const [naming, setNaming] = useState<{ of: DraftItem; how: 'copy' | 'rename' } | null>(null);
  const open = (slug: string) => router.push(`/release?draft=${slug}`);
  const restore = useMutation({
    mutationFn: (slug: string) => call(draftEndpoints.putBack, { removed: slug }),
    onSuccess: () => void queries.invalidateQueries(),
  });
  const remove = useMutation({
    mutationFn: (one: DraftItem) => call(draftEndpoints.remove, { draft: one.slug }),
    onSuccess: (_, one) => {
      const close = message.open({
        type: 'success',
        duration: 8,
        content: (
          <>
            “{one.name}” is deleted.{' '}
            <Button
              size="small"
              onClick={() => {
                close();
                restore.mutate(one.slug);
              }}
            >
              Put it back
            </Button>
          </>
        ),
      });
      const next = drafts?.drafts.find(({ slug }) => slug !== one.slug);
      if (one.slug === draft && next) open(next.slug);
      void queries.invalidateQueries();
    },
  });
  const close = useMutation({
    mutationFn: ({ slug, closed }: DraftItem) => call(draftEndpoints.close, { draft: slug }, { closed: !closed }),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ['drafts'] }),
  });
  const failed = remove.error ?? restore.error ?? close.error;
  return (
    <section className="release-drafts" aria-labelledby="drafts-title">
      <h2 id="drafts-title">Drafts</h2>
      {!drafts && <Skeleton active />}
      {failed && <Alert type="error" showIcon title={messageOf(failed)} />}
      <ul className="draft-cards">
        {drafts?.drafts.map((one) => (
          <li key={one.slug} data-here={one.slug === draft}>
            <button
              type="button"
              className="draft-name"
              aria-current={one.slug === draft || undefined}
              onClick={() => open(one.slug)}
            >
              {one.name}
            </button>
            <p className="quiet">
              {one.differs === 0
                ? 'same as live'
                : `${one.differs} ${one.differs === 1 ? 'file differs' : 'files differ'} from live`}
              {one.from && <> · from {one.from}</>} ·{' '}
              {one.below.map(({ name, version }) => `${name} ${version}`).join(', ')}
            </p>
            {one.note && <p>{one.note}</p>}
            {one.closed && <p className="quiet">Only developers and owners see it.</p>}
            <div className="draft-acts">
              {one.slug !== draft && (
                <Button size="small" onClick={() => onCompare(one.slug)}>
                  Compare
                </Button>
              )}
              <Button size="small" onClick={() => setNaming({ of: one, how: 'copy' })}>
                Copy
              </Button>
              <Button size="small" onClick={() => setNaming({ of: one, how: 'rename' })}>
                Rename
              </Button>
              {signedIn && (
                <Button
                  size="small"
                  loading={close.isPending}
                  title={
                    one.closed
                      ? 'Staff and readers see this draft from now on'
                      : 'Staff and readers do not see this draft any more'
                  }
                  onClick={() => close.mutate(one)}
                >
                  {one.closed ? 'Show to everyone' : 'Keep to developers'}
                </Button>
              )}
              {(drafts?.drafts.length ?? 0) > 1 && (
                <Button
                  size="small"
                  loading={remove.isPending}
                  aria-label={`Delete ${one.name}`}
                  onClick={() => remove.mutate(one)}
                >
                  Delete
                </Button>
              )}
            </div>
          </li>
        ))}
      </ul>
      {drafts && drafts.removed.length > 0 && (
        <details>
          <summary>Deleted drafts ({drafts.removed.length})</summary>
          <ul className="draft-cards">
            {drafts.removed.map((one) => (
              <li key={one.slug}>
                {one.name}{' '}
                <small>
                  deleted <When at={one.removedAt ?? one.madeAt} />
                </small>
                <div className="draft-acts">
                  <Button size="small" onClick={() => restore.mutate(one.slug)}>
                    Put it back
                  </Button>
                </div>
              </li>
            ))}
          </ul>
        </details>
      )}
      {!signedIn && (
        <>
          <label className="field" htmlFor="author">
            Your name <small>kept with what you change</small>
          </label>
          <Input
            id="author"
            value={author}
            maxLength={60}
            placeholder="Not said"
            onChange={(event) => setAuthorName(event.target.value)}
          />
        </>
      )}
      {naming && (
        <NameDialog key={`${naming.of.slug} ${naming.how}`} {...naming} onClose={() => setNaming(null)} onMade={open} />
      )}
    </section>
  );
}

interface NameProps {
  of: DraftItem;
  how: 'copy' | 'rename';
  onClose: () => void;
  onMade: (slug: string) => void;
}

function NameDialog({ of, how, onClose, onMade }: NameProps) {
  const queries = useQueryClient();
  const [name, setName] = useState(how === 'copy' ? `${of.name}, copy` : of.name);
  const [note, setNote] = useState(how === 'copy' ? '' : of.note);
  const work = useMutation({
    mutationFn: () =>
      how === 'copy'
        ? call(draftEndpoints.copy, {}, { from: `draft/${of.slug}`, name, note })
        : call(draftEndpoints.rename, { draft: of.slug }, { name, note }),
    onSuccess: ({ slug }) => {
      void queries.invalidateQueries();
      onClose();
      if (how === 'copy') onMade(slug);
    },
  });
  return (
    <Modal
      open
      title={how === 'copy' ? `Copy “${of.name}”` : `Rename “${of.name}”`}
      okText={how === 'copy' ? 'Make the copy' : 'Rename'}
      cancelText="Cancel"
      okButtonProps={{ disabled: !name.trim(), loading: work.isPending }}
      onOk={() => work.mutate()}
      onCancel={onClose}
      afterOpenChange={(now) => now && document.getElementById('draft-name')?.focus()}
    >
      <label className="field" htmlFor="draft-name">
        Name
      </label>
      <Input
        id="draft-name"
        value={name}
        maxLength={80}
        onChange={(event) => setName(event.target.value)}
        onPressEnter={() => work.mutate()}
      />
      <label className="field" htmlFor="draft-note">
        Note
      </label>
      <Input id="draft-note" value={note} maxLength={500} onChange={(event) => setNote(event.target.value)} />
      {how === 'copy' && <p className="quiet">All of it comes along: files, alternates, shelves, words, the look.</p>}
      {work.isError && <Alert type="error" showIcon title={messageOf(work.error)} />}
    </Modal>
  );
}
