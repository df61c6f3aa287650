'use client';
import { Alert, Button, Form, Input, Select } from 'antd';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { baseThemes, startEndpoints } from '@/contract/start';
import { call, messageOf, MultiSelect } from '@/ui/shared';
import { currencyChoices, languageChoices } from './choices';

type Begin = 'demo' | (typeof baseThemes)[number];

const ways: { begin: Begin; title: string; says: string }[] = [
  {
    begin: 'demo',
    title: 'The demo',
    says: 'Withy Quay, an invented chandlery: 61 products, a theme in two layers, and a draft with work under way. The quickest way to see what Last does.',
  },
  {
    begin: 'quay',
    title: 'My shop, on a whole theme',
    says: 'Begins with Quay: home page, listings with filters, product pages, cart, and places where pieces can be put. Change what you like; updates of the base keep coming in.',
  },
  {
    begin: 'empty',
    title: 'My shop, on a bare theme',
    says: 'Begins with Plain: one layout and one short template for each kind of page, hardly styled, and nothing else. For those who write their own.',
  },
];

interface Answers {
  name: string;
  currency: string;
  languages: string[];
}

/** What is seen while the data folder is empty: what to begin with, and what a shop of one's own needs to be told. */
export function StartScreen() {
  const [begin, setBegin] = useState<Begin>('demo');
  const [busy, setBusy] = useState(false);
  const [failed, setFailed] = useState<string | null>(null);
  const [form] = Form.useForm<Answers>();
  const router = useRouter();
  const languages = useMemo(() => languageChoices('en'), []);
  const currencies = useMemo(() => currencyChoices('en'), []);
  const go = async (answers: Answers) => {
    setBusy(true);
    setFailed(null);
    try {
      const { draft } =
        begin === 'demo'
          ? await call(startEndpoints.demo, {})
          : await call(startEndpoints.shop, {}, { ...answers, theme: begin });
      router.push(begin === 'demo' ? `/bench?draft=${draft}` : `/catalogue?draft=${draft}&view=goods`);
    } catch (error) {
      setBusy(false);
      setFailed(messageOf(error));
    }
  };
  return (
    <main className="start">
      <h1>
        <svg width="44" height="24" viewBox="0 0 22 12" aria-hidden="true">
          <path d="M0 3a3 3 0 0 1 3-3h8c5 0 11 4 11 8v1a3 3 0 0 1-3 3H3a3 3 0 0 1-3-3z" fill="var(--leather)" />
        </svg>
        There is no shop here yet. What do you want to begin with?
      </h1>
      <Form<Answers>
        form={form}
        layout="vertical"
        requiredMark={false}
        initialValues={{ name: '', currency: 'EUR', languages: ['en'] }}
        onFinish={(answers) => void go(answers)}
        disabled={busy}
      >
        <div className="start-ways" role="radiogroup" aria-label="What to begin with">
          {ways.map((way) => (
            <label key={way.begin} className="start-way" data-chosen={begin === way.begin || undefined}>
              <strong>
                <input
                  type="radio"
                  name="begin"
                  value={way.begin}
                  checked={begin === way.begin}
                  onChange={() => setBegin(way.begin)}
                />
                {way.title}
              </strong>
              <span>{way.says}</span>
            </label>
          ))}
        </div>
        {begin !== 'demo' && (
          <div className="start-answers">
            <Form.Item
              name="name"
              label="What is the shop called?"
              rules={[{ required: true, whitespace: true, message: 'The shop needs a name: it stands on every page.' }]}
            >
              <Input maxLength={80} autoFocus placeholder="Tidy House" />
            </Form.Item>
            <Form.Item name="currency" label="Currency">
              <Select showSearch={{ optionFilterProp: 'label' }} options={currencies} />
            </Form.Item>
            <Form.Item
              name="languages"
              label="Languages, the one that texts are written in first"
              rules={[{ required: true, message: 'The shop needs a language.' }]}
            >
              <MultiSelect showSearch={{ optionFilterProp: 'label' }} options={languages} />
            </Form.Item>
          </div>
        )}
        {failed && <Alert type="error" showIcon title="The shop was not made" description={failed} role="alert" />}
        <div className="start-go">
          <Button type="primary" size="large" htmlType="submit" loading={busy}>
            {begin === 'demo' ? 'Open the demo' : 'Make the shop'}
          </Button>
          <span role="status">
            {busy
              ? begin === 'demo'
                ? 'Drawing its pictures and filling the catalogue…'
                : 'Making the shop…'
              : begin === 'demo'
                ? 'Nothing of it is sent anywhere. To begin again later, use another data folder.'
                : 'It is live at once, with nothing to sell yet: the next step brings goods in from a file.'}
          </span>
        </div>
      </Form>
    </main>
  );
}
