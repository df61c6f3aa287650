export function sourcesOf(root: string): string;
export function isBuilt(root: string): boolean;
export function markBuilt(root: string, sources: string): void;
export function takeBuild(root: string): number | null;
export function giveBuild(root: string): void;
