'use client';
import { useId } from 'react';
import { signOf } from '@/core/alternates';

/** The pattern of a template's sign, to fill shapes with by `url(#id)`. */
export function SignPattern({ id, at, scale = 1 }: { id: string; at: number; scale?: number }) {
  const { ground, ink, pattern } = signOf(at);
  const { size, path, width } = pattern;
  return (
    <pattern id={id} width={size} height={size} patternUnits="userSpaceOnUse" patternTransform={`scale(${scale})`}>
      <rect width={size} height={size} fill={ground} />
      <path d={path} {...(width === null ? { fill: ink } : { fill: 'none', stroke: ink, strokeWidth: width })} />
    </pattern>
  );
}

/** A template's sign: colour and pattern together, so that either alone tells them apart. `at` 0 is the default. */
export function Sign({ at, size = 20 }: { at: number; size?: number }) {
  const id = useId();
  return (
    <svg className="sign" width={size} height={size} viewBox="0 0 20 20" aria-hidden="true">
      <SignPattern id={id} at={at} scale={0.8} />
      <rect x="0.5" y="0.5" width="19" height="19" rx="4.5" fill={`url(#${id})`} stroke="var(--sign-edge)" />
    </svg>
  );
}
