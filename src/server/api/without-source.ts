import type { PageAnswer, ViewAnswer } from '@/contract/bench';
import { sourceWithoutName } from '@/server/comments';
import { type Asking, may, refuse } from '@/server/http';

/** Files whose unsaved texts anyone who works here may have on a page: no template is among them. */
const ofContent = (path: string): boolean => path === 'shelves.json' || /^words\/[^/]+\.json$/.test(path);

/** The unsaved texts that come with a request; refused where they are of templates and whoever asks sees no source. */
export function mayType<Text extends { path: string }>(who: Asking, unsaved: Text[]): Text[] {
  if (may(who, 'source')) return unsaved;
  const other = unsaved.find(({ path }) => !ofContent(path));
  if (other) refuse(403, 'right', `A ${who.role} does not change “${other.path}”.`);
  return unsaved;
}

/** The same of what is said of a page. */
export const pageWithoutSource = (page: PageAnswer): PageAnswer => ({
  ...page,
  ...{ choices: [], drawn: [], assets: [], problems: [] },
});

/** What the Bench knows of a page, without anything of the source: where placements and shelves are, and the page itself. */
export function withoutSource(answer: ViewAnswer): ViewAnswer {
  const { page, table, broken } = answer;
  return {
    ...answer,
    page: page && pageWithoutSource(page),
    broken: broken && ofContent(broken.file) ? broken : null,
    table: {
      ...table,
      sources: table.sources.map(sourceWithoutName),
      templates: table.templates.map(({ places }) => ({
        name: '',
        // Of each place only how it lies to others: that tells which elements are outermost.
        places: places.map(({ kind, source, from, to }) => ({ kind, source, from, to, line: 0, text: '', mark: null })),
      })),
      loops: [],
      conditions: [],
      said: [],
    },
  };
}
