'use client';
import { Input } from 'antd';
import { useState } from 'react';
import { minorDigits } from '@/core/language';
import { readPrice } from '@/core/exchange';

interface Props {
  label: string;
  /** In minor units; null: none. */
  value: number | null;
  currency: string;
  onChange: (minor: number | null) => void;
}

/** A price as people write it. Anything else is marked as wrong, and the last price stays. */
export function MoneyField({ label, value, currency, onChange }: Props) {
  const digits = minorDigits(currency);
  const written = value === null ? '' : (value / 10 ** digits).toFixed(digits);
  const [text, setText] = useState<string | null>(null);
  const read = text?.trim() ? readPrice(text, currency, '.') : null;
  const wrong = read && 'wrong' in read ? read.wrong : null;
  return (
    <Input
      size="small"
      aria-label={label}
      inputMode="decimal"
      status={wrong ? 'error' : ''}
      title={wrong ?? ''}
      value={text ?? written}
      onChange={({ target }) => {
        setText(target.value);
        const next = target.value.trim() ? readPrice(target.value, currency, '.') : null;
        if (next === null) onChange(null);
        else if ('minor' in next) onChange(next.minor);
      }}
      onBlur={() => setText(null)}
    />
  );
}
