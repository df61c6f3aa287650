import { useEffect } from 'react';
import { useNow, type Workspace } from '@/ui/workspace';
import { useCommands, type Command } from './Commands';

const tabs = {
  reach: 'In reach',
  styles: 'Styles',
  problems: 'Problems',
  uses: 'Uses',
  history: 'History',
  comments: 'Comments',
};

/** What there is to do for who sees no source. */
const forContent: ReadonlySet<string> = new Set(['page', 'point', 'save', 'to-page', 'reload', 'commands', 'keys']);

/** Everything that can be done on the Bench, by its keys or from the list, wherever the focus is. */
export function useBenchCommands(workspace: Workspace): Command[] {
  const { file, naming, panels, spot } = workspace;
  const pointing = useNow(panels, (now) => now.pointing);
  const awkward = useNow(panels, (now) => now.awkward);
  /** Shows a tab of the drawer, and goes to the first thing in it. */
  const toDrawer = (tab: string) => {
    panels.showTab(tab);
    const first =
      '.drawer [role=tabpanel]:not([aria-hidden=true]) :is(input, button, [tabindex="0"]):not([tabindex="-1"])';
    // What a tab shows may have to be asked for first.
    let tries = 0;
    const timer = setInterval(() => {
      const found = document.querySelector<HTMLElement>(first);
      if (!found && ++tries < 30) return;
      clearInterval(timer);
      found?.focus();
    }, 80);
  };
  const findEverywhere = () => {
    panels.showTab('uses');
    setTimeout(() => document.getElementById('find-everywhere')?.focus(), 60);
  };
  const find = () => {
    panels.open({ finding: true });
    document.getElementById('go-to')?.focus();
  };
  const list: [id: string, title: string, keys: string, run: () => void][] = [
    ['page', 'Go to a page', 'Ctrl K', find],
    ['file', 'Open a file', 'Ctrl P', () => panels.open({ picking: true })],
    ['point', pointing ? 'Stop pointing' : 'Point at the page', 'Ctrl .', () => workspace.point(!pointing)],
    ['here', 'Show the caret’s element on the page', 'Ctrl I', spot.scrollTo],
    ['why', 'Why is it here, or not?', 'Ctrl Shift Y', () => workspace.editor?.explain()],
    ['change', 'Change something here', 'Ctrl Enter', () => panels.open({ acting: true })],
    ['save', 'Save', 'Ctrl S', () => void file.save()],
    ['save-all', 'Save all', 'Ctrl Shift S', () => void workspace.saveAll()],
    ['source', 'To the source', 'F6', workspace.toSource],
    ['to-page', 'Into the page', '', () => workspace.frame?.focus()],
    ['problem', 'Next problem in this file', 'F8', () => workspace.editor?.nextProblem(false)],
    ['problem-before', 'Problem before it', 'Shift F8', () => workspace.editor?.nextProblem(true)],
    ['fix', 'Fix it: apply the offered fix', 'Alt Enter', () => void workspace.editor?.fix()],
    ...Object.entries(tabs).map(([tab, title]): (typeof list)[number] => [
      `tab-${tab}`,
      `Drawer: ${title}`,
      '',
      () => toDrawer(tab),
    ]),
    ['find', 'Find and replace in every file', 'Ctrl Shift F', findEverywhere],
    ['format', 'Format this file', 'Ctrl Shift L', () => void naming.format()],
    ['awkward', awkward ? 'One page' : 'Awkward pages', 'Ctrl Shift A', () => panels.open({ awkward: !awkward })],
    ['arrange', 'Arrange the page’s shelves', 'Ctrl Shift E', () => workspace.arrange()],
    ['reload', 'Load the page again', '', workspace.reload],
    ['commands', 'All commands', 'Ctrl E', () => panels.open({ list: 'commands' })],
    ['keys', 'The keys', 'F1', () => panels.open({ list: 'keys' })],
  ];
  const { may } = workspace;
  const all = may.source ? list : list.filter(([id]) => forContent.has(id));
  const commands = all.map(([id, title, keys, run]) => ({ id, title, keys, run }));
  const pressed = useCommands(commands);
  useEffect(() => workspace.hearKeys(pressed), [workspace, pressed]);
  return commands;
}
