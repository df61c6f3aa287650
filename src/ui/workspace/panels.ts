import { readStored, writeStored } from '@/ui/shared';
import { Store } from './store';

export interface PanelState {
  /** A page is being looked for. */
  finding: boolean;
  /** A file is being chosen. */
  picking: boolean;
  /** An alternate is being made. */
  making: boolean;
  /** The menu of what can be done here is open. */
  acting: boolean;
  /** The awkward pages are shown in place of the page. */
  awkward: boolean;
  /** The page is pointed at. */
  pointing: boolean;
  list: 'commands' | 'keys' | null;
  /** The tab of the drawer. */
  tab: string;
}

/** What is open beside page and source. */
export class PanelStore extends Store<PanelState> {
  constructor() {
    super({
      ...{ finding: false, picking: false, making: false, acting: false },
      ...{ awkward: false, pointing: false, list: null, tab: readStored('tab', 'reach') },
    });
  }

  open = (change: Partial<Omit<PanelState, 'tab'>>): void => this.set(change);

  /** Shows a tab of the drawer, also at the next visit. */
  showTab = (tab: string): void => {
    this.set({ tab });
    writeStored('tab', tab);
  };
}
