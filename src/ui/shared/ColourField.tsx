'use client';
import { ColorPicker, Input } from 'antd';

interface Props {
  id: string;
  /** As CSS writes it; '' for none. */
  value: string;
  onChange: (colour: string) => void;
  /** Colours that are offered first. */
  offered?: readonly { label: string; value: string }[];
}

/** A colour, picked or written. */
export function ColourField({ id, value, onChange, offered = [] }: Props) {
  return (
    <span className="look-colour">
      <ColorPicker
        size="small"
        disabledAlpha
        value={value || '#000000'}
        onChange={(colour) => onChange(colour.toHexString())}
      />
      {offered.length > 0 && (
        <span className="colours-offered" role="group" aria-label="Colours of the look">
          {offered.map((one) => (
            <button
              key={one.label}
              type="button"
              title={one.label}
              aria-label={one.label}
              aria-pressed={one.value.toLowerCase() === value.toLowerCase()}
              style={{ background: one.value }}
              onClick={() => onChange(one.value)}
            />
          ))}
        </span>
      )}
      <Input id={id} size="small" value={value} onChange={({ target }) => onChange(target.value)} spellCheck={false} />
    </span>
  );
}
