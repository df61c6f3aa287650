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
