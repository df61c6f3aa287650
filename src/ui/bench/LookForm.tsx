'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Input, InputNumber, Select, Skeleton, Slider, Switch } from 'antd';
import { useMemo, useState } from 'react';
import { layerEndpoints } from '@/contract/layers';
import { isReadable, listingRows, settingsOf, withSetting, type LookValue, type Setting } from '@/core/theme';
import { call, ColourField, messageOf } from '@/ui/shared';
import { ListingLooks } from './ListingLooks';

interface Props {
  draft: string;
  /** The shop's own `look.json` as it stands; null: it has none. */
  own: string | null;
  /** A new one puts the text in again. */
  version: number;
  onText: (text: string) => void;
}

const systemFonts = ['system-ui', 'serif', 'sans-serif', 'monospace'];
/** The look as a form: each change is written into the shop's `look.json` and seen on the page at once. */
export function LookForm(props: Props) {
  return <Form key={props.version} {...props} />;
}

function Form({ draft, own, onText }: Props) {
  const [text, setText] = useState(own);
  const given = useQuery({
    queryKey: ['look', draft],
    queryFn: () => call(layerEndpoints.look, { draft }),
  });
  const settings = useMemo(() => settingsOf(given.data?.below ?? [], text), [given.data, text]);
  const listings = useMemo(() => listingRows(given.data?.below ?? [], text), [given.data, text]);
  if (given.isError) return <Alert type="error" showIcon title={messageOf(given.error)} />;
  if (!given.data) return <Skeleton active />;
  if (!isReadable(text))
    return (
      <Alert
        type="error"
        showIcon
        title="look.json is not valid JSON: put it right in its source. The form would lose what is written there."
      />
    );
  const change = (next: string) => {
    setText(next);
    onText(next);
  };
  const groups = [...new Set(settings.map(({ group }) => group))];
  return (
    <div className="look-form" role="form" aria-label="The look">
      {groups.map((group) => (
        <fieldset key={group}>
          <legend>{group || 'Settings'}</legend>
          {settings
            .filter((one) => one.group === group)
            .map((setting) => (
              <div className="look-row" key={setting.name} data-own={setting.own}>
                <label htmlFor={`look-${setting.name}`}>{setting.label}</label>
                <Control
                  setting={setting}
                  fonts={given.data.fonts}
                  onChange={(value) => change(withSetting(text, setting.name, value))}
                />
                {setting.own && (
                  <Button
                    size="small"
                    type="text"
                    title={`Back to ${String(setting.below)}`}
                    aria-label={`${setting.label}: as below`}
                    onClick={() => change(withSetting(text, setting.name, undefined))}
                  >
                    As below
                  </Button>
                )}
              </div>
            ))}
        </fieldset>
      ))}
      <ListingLooks text={text} rows={listings} options={given.data.options} onText={change} />
    </div>
  );
}

function Control({
  setting,
  fonts,
  onChange,
}: {
  setting: Setting;
  fonts: string[];
  onChange: (value: LookValue) => void;
}) {
  const { type, name, label, value, choices, min, max, step, unit } = setting;
  const id = `look-${name}`;
  if (type === 'boolean')
    return <Switch id={id} aria-label={label} size="small" checked={value === true} onChange={onChange} />;
  if (type === 'colour') return <ColourField id={id} value={String(value ?? '')} onChange={onChange} />;
  if (type === 'number')
    return (
      <span className="look-number">
        {min !== null && max !== null && (
          <Slider
            aria-label={label}
            ariaLabelForHandle={label}
            min={min}
            max={max}
            step={step}
            value={Number(value)}
            onChange={onChange}
          />
        )}
        <InputNumber
          id={id}
          size="small"
          min={min ?? undefined}
          max={max ?? undefined}
          step={step}
          value={Number(value)}
          onChange={(next) => next !== null && onChange(next)}
          suffix={unit}
        />
      </span>
    );
  if (type === 'choice' || type === 'font') {
    const options =
      type === 'choice'
        ? choices
        : [...new Set([...fonts, ...systemFonts, String(value ?? '')])]
            .filter(Boolean)
            .map((one) => ({ value: one, label: one }));
    return (
      <Select
        id={id}
        aria-label={label}
        size="small"
        value={String(value ?? '')}
        options={options}
        onChange={onChange}
        popupMatchSelectWidth={false}
      />
    );
  }
  return <Input id={id} size="small" value={String(value ?? '')} onChange={({ target }) => onChange(target.value)} />;
}
