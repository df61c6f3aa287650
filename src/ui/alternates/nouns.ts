import type { AlternatesTarget } from '@/contract/alternates';

const nouns: Record<string, string> = {
  product: 'products',
  category: 'categories',
  listing: 'listings',
  content: 'content pages',
  article: 'articles',
  home: 'home page',
  articles: 'page of articles',
  cart: 'cart',
};

/** What the subjects of a target are called, many of them. */
export const nounOf = ({ kind }: Pick<AlternatesTarget, 'kind'>): string => nouns[kind] ?? kind;
