/** Where a record is changed, or looked at, by a form. */
export const formAddress = (form: string, number: string, change: boolean): string =>
  `/${change ? 'fill' : 'view'}/${form}/${encodeURIComponent(number)}`;
