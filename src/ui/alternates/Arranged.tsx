'use client';
import Link from 'next/link';
import type { AlternatesTarget } from '@/contract/alternates';
import { pathOf } from '@/core/address';

/** Pages that differ by what stands on their shelves there alone, each with the way to Arrange. */
export function Arranged({ draft, item }: { draft: string; item: AlternatesTarget }) {
  const { arranged, kind } = item;
  if (!arranged.length) return null;
  return (
    <>
      <div className="section-head">
        <h2>
          Arranged <small>pages with pieces of their own</small>
        </h2>
      </div>
      <ul className="arranged" aria-label="Pages with pieces of their own">
        {arranged.map(({ slug, name, pieces, gone }) => (
          <li key={slug}>
            {gone ? (
              <span className="is-wrong">{slug} is gone</span>
            ) : (
              <Link
                href={`/bench?${new URLSearchParams({ draft, page: pathOf({ kind, slug }), file: 'shelves.json' })}`}
              >
                {name}
              </Link>
            )}
            <span className="quiet">{pieces.join(', ')}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
