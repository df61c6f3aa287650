/** What types of custom fields are called. */
export const fieldTypes = [
  { value: 'text', label: 'Text' },
  { value: 'html', label: 'Rich text' },
  { value: 'number', label: 'Number' },
  { value: 'flag', label: 'Yes or no' },
  { value: 'day', label: 'Day' },
  { value: 'link', label: 'Link' },
  { value: 'picture', label: 'Picture' },
];

/** What can have custom fields, as people call them. */
export const fieldHolders = [
  { value: 'product', label: 'products' },
  { value: 'category', label: 'categories' },
  { value: 'content', label: 'content pages' },
  { value: 'article', label: 'articles' },
];

/** Whether a field of a type may hold several values: rich text and yes or no are one. */
export const canBeSeveral = (type: string): boolean => type !== 'html' && type !== 'flag';
