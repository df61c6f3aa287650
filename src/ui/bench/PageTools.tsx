'use client';
import { AimOutlined, AppstoreOutlined, BlockOutlined } from '@ant-design/icons';
import { Button, Select, Tooltip } from 'antd';
import type { Workspace } from '@/ui/workspace';
import type { PageAnswer } from '@/contract/bench';
import type { SubjectItem } from '@/contract/shared';
import { SubjectField } from '@/ui/shared';

interface Props {
  report: PageAnswer | null;
  address: string;
  tried: string | null;
  width: number;
  pointing: boolean;
  finding: boolean;
  onFinding: (open: boolean) => void;
  onPick: (subject: SubjectItem) => void;
  onTry: (alternate: string | null) => void;
  onMake: () => void;
  onLanguage: (address: string) => void;
  onWidth: (width: number) => void;
  onPoint: (on: boolean) => void;
  /** Several pages are shown, not one. */
  awkward: boolean;
  onAwkward: (on: boolean) => void;
  /** Its shelves are filled, in place of the source. */
  arranging: boolean;
  onArrange: (on: boolean) => void;
  may: Workspace['may'];
}

/** Above the page: where to, by which template, in which language and width, and pointing. */
export function PageTools(props: Props) {
  const { report, address, tried, width, pointing, finding, may } = props;
  const language = report?.languages.find((one) => one.current);
  const assigned = report?.because === 'tried' ? null : report?.template.split('/')[1];
  const choices = (report?.choices ?? []).map((one) => ({ value: one.name, label: `try: ${one.label}` }));
  return (
    <div className="bench-tools">
      {may.arrange && (
        <Tooltip
          placement="bottomLeft"
          mouseEnterDelay={0.8}
          title={`Point at something on the page to ${may.source ? 'go to its source' : 'fill it in'} (Ctrl . or hold Alt)`}
        >
          <Button
            type={pointing ? 'primary' : 'default'}
            icon={<AimOutlined />}
            aria-label="Point"
            aria-pressed={pointing}
            onClick={() => props.onPoint(!pointing)}
          >
            Point
          </Button>
        </Tooltip>
      )}
      {may.source && (
        <Tooltip placement="bottomLeft" mouseEnterDelay={0.8} title="Put pieces on this page’s shelves (Ctrl Shift E)">
          <Button
            type={props.arranging ? 'primary' : 'default'}
            icon={<BlockOutlined />}
            aria-label="Arrange"
            aria-pressed={props.arranging}
            onClick={() => props.onArrange(!props.arranging)}
          >
            Arrange
          </Button>
        </Tooltip>
      )}
      <SubjectField
        id="go-to"
        label="Go to a page"
        keys="Ctrl K"
        placeholder="Go to a product, category, listing or content page"
        className="go-to"
        value={report?.subject ? `${report.subject.name}` : null}
        onPick={(subject) => {
          props.onFinding(false);
          props.onPick(subject);
        }}
        open={finding}
        onOpenChange={props.onFinding}
      />
      {may.source && (
        <Select
          aria-label="Template in use"
          title="Template in use"
          className="template-choice"
          value={tried ?? ''}
          options={[
            { value: '', label: assigned ? `as assigned: ${assigned}` : 'as assigned' },
            ...choices,
            { value: '+', label: 'New alternate…' },
          ]}
          onChange={(value: string) => (value === '+' ? props.onMake() : props.onTry(value || null))}
          popupMatchSelectWidth={220}
        />
      )}
      {report && report.languages.length > 1 && (
        <Select
          aria-label="Language of the page"
          title="Language of the page"
          className="language-choice"
          value={language?.prefix ?? ''}
          options={report.languages.map(({ locale, prefix }) => ({ value: prefix, label: locale }))}
          onChange={(prefix: string) => props.onLanguage(prefix + address.slice(language?.prefix.length ?? 0))}
          popupMatchSelectWidth={false}
        />
      )}
      <Select
        aria-label="Width of the page"
        title="Width of the page"
        className="width-choice"
        value={width}
        options={[360, 768, 1280].map((one) => ({ value: one, label: String(one) }))}
        onChange={props.onWidth}
        popupMatchSelectWidth={false}
      />
      {may.source && (
        <Tooltip
          placement="bottomRight"
          mouseEnterDelay={0.8}
          title="The few pages that together show every outcome of the template at hand (Ctrl Shift A)"
        >
          <Button
            type={props.awkward ? 'primary' : 'default'}
            aria-label="Awkward pages"
            aria-pressed={props.awkward}
            icon={<AppstoreOutlined aria-hidden />}
            onClick={() => props.onAwkward(!props.awkward)}
          />
        </Tooltip>
      )}
    </div>
  );
}
