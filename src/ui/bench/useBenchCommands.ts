import type { RefObject } from 'react';
import { useCommands, type Command } from './Commands';
import type { EditorHandle } from '@/ui/source';

/** What the commands of the Bench do, beside what the editor does by itself. */
export interface BenchDoes {
  editor: RefObject<EditorHandle | null>;
  pointing: boolean;
  awkward: boolean;
  find: () => void;
  pickFile: () => void;
  point: (on: boolean) => void;
  toCaret: () => void;
  change: () => void;
  save: () => void;
  saveAll: () => void;
  intoPage: () => void;
  /** Shows a tab of the drawer. */
  showTab: (tab: string) => void;
  format: () => void;
  setAwkward: (on: boolean) => void;
  reload: () => void;
  list: (of: 'commands' | 'keys') => void;
}

const tabs = { reach: 'In reach', styles: 'Styles', problems: 'Problems', uses: 'Uses', history: 'History' };

/** Everything that can be done on the Bench, by its keys or from the list; `pressed` hears keys that were pressed in the page. */
export function useBenchCommands(does: BenchDoes): { commands: Command[]; pressed: ReturnType<typeof useCommands> } {
  const { editor, pointing, awkward } = does;
  /** Shows a tab of the drawer, and goes to the first thing in it. */
  const toDrawer = (tab: string) => {
    does.showTab(tab);
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
    does.showTab('uses');
    setTimeout(() => document.getElementById('find-everywhere')?.focus(), 60);
  };
  const list: [id: string, title: string, keys: string, run: () => void][] = [
    ['page', 'Go to a page', 'Ctrl K', does.find],
    ['file', 'Open a file', 'Ctrl P', does.pickFile],
    ['point', pointing ? 'Stop pointing' : 'Point at the page', 'Ctrl .', () => does.point(!pointing)],
    ['here', 'Show the caret’s element on the page', 'Ctrl I', does.toCaret],
    ['why', 'Why is it here, or not?', 'Ctrl Shift Y', () => editor.current?.explain()],
    ['change', 'Change something here', 'Ctrl Enter', does.change],
    ['save', 'Save', 'Ctrl S', does.save],
    ['save-all', 'Save all', 'Ctrl Shift S', does.saveAll],
    ['source', 'To the source', 'F6', () => editor.current?.focus()],
    ['to-page', 'Into the page', '', does.intoPage],
    ['problem', 'Next problem in this file', 'F8', () => editor.current?.nextProblem(false)],
    ['problem-before', 'Problem before it', 'Shift F8', () => editor.current?.nextProblem(true)],
    ['fix', 'Fix it: apply the offered fix', 'Alt Enter', () => void editor.current?.fix()],
    ...Object.entries(tabs).map(([tab, title]): (typeof list)[number] => [
      `tab-${tab}`,
      `Drawer: ${title}`,
      '',
      () => toDrawer(tab),
    ]),
    ['find', 'Find and replace in every file', 'Ctrl Shift F', findEverywhere],
    ['format', 'Format this file', 'Ctrl Shift L', does.format],
    ['awkward', awkward ? 'One page' : 'Awkward pages', 'Ctrl Shift A', () => does.setAwkward(!awkward)],
    ['reload', 'Load the page again', '', does.reload],
    ['commands', 'All commands', 'Ctrl E', () => does.list('commands')],
    ['keys', 'The keys', 'F1', () => does.list('keys')],
  ];
  const commands = list.map(([id, title, keys, run]) => ({ id, title, keys, run }));
  return { commands, pressed: useCommands(commands) };
}
