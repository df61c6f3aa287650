import { createStore, type StoreApi } from 'zustand/vanilla';

/** A part of the workspace: what it knows now, and who is told when that changes. It needs no React and no browser. */
export abstract class Store<State extends object> {
  /** For components: see `use.ts`. */
  readonly api: StoreApi<State>;

  protected constructor(initial: State) {
    this.api = createStore(() => initial);
  }

  get now(): State {
    return this.api.getState();
  }

  /** Calls after each change; gives what ends that. */
  subscribe(changed: () => void): () => void {
    return this.api.subscribe(changed);
  }

  protected set(change: Partial<State>): void {
    this.api.setState(change);
  }
}
