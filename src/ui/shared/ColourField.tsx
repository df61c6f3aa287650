'use client';
import { ColorPicker, Input } from 'antd';

interface Props {
  id: string;
  /** As CSS writes it; '' for none. */
  value: string;
  onChange: (colour: string) => void;
}

/** A colour, picked or written. */
export function ColourField({ id, value, onChange }: Props) {
  return (
    <span className="look-colour">
      <ColorPicker
        size="small"
        disabledAlpha
        value={value || '#000000'}
        onChange={(colour) => onChange(colour.toHexString())}
      />
      <Input id={id} size="small" value={value} onChange={({ target }) => onChange(target.value)} spellCheck={false} />
    </span>
  );
}
