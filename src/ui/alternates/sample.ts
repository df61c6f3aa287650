import { alternateEndpoints, type TargetItem, type TemplateItem, type WhoAnswer } from '@/contract/alternates';
import { call } from '@/ui/shared';

/** Someone to show a template by: one who gets it, or one it is meant for, or anyone; null where there is none. `given`: whether anyone gets it. */
export async function sampleOf(
  draft: string,
  target: TargetItem,
  template: Pick<TemplateItem, 'file' | 'types'>,
  given: boolean,
): Promise<WhoAnswer['rows'][number] | null> {
  const name = template.file.replace(/\.html$/, '');
  const ask = async (more: { template?: string; group?: string | null }) => {
    const { rows } = await call(
      alternateEndpoints.who,
      { draft },
      {
        ...{ target, on: null, by: 'type', group: null, template: null, because: null, rule: null, words: '' },
        ...{ from: 0, limit: 1, ...more },
      },
    );
    return rows[0] ?? null;
  };
  const own = given ? await ask({ template: name }) : null;
  const [type] = target.kind === 'product' ? template.types : [];
  return own ?? (type === undefined ? null : await ask({ group: type })) ?? (await ask({}));
}
