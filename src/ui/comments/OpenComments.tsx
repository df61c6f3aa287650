'use client';
import Link from 'next/link';
import type { CommentItem } from '@/contract/comments';
import { useComments } from './useComments';
import { placeSays } from './says';
import './comments.css';

/** What is said in a draft and not done with, each with the way to its place. Nothing where nothing is. */
export function OpenComments({ draft }: { draft: string }) {
  const open = useComments(draft).comments.filter(({ done }) => !done);
  if (!open.length) return null;
  return (
    <section className="comments open-comments" aria-label="Open comments">
      <h3>{open.length === 1 ? 'One comment is open' : `${open.length} comments are open`}</h3>
      <ul>
        {open.map((one) => (
          <li key={one.id} className="comment">
            <span className="comment-number">{one.number}</span> <strong>{one.by}</strong> {one.text}{' '}
            <Link href={wayTo(draft, one)}>{placeSays(one)}</Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function wayTo(draft: string, { page, placement, place }: CommentItem): string {
  const to = new URLSearchParams({ draft });
  if (page) to.set('page', page);
  if (place?.file) to.set('file', place.file);
  else if (placement) to.set('file', 'shelves.json');
  return `/bench?${to}`;
}
