/** A heading made for machines, as people would write it: `customer_id` is Customer id. */
export const headingLabel = (name: string): string =>
  /^[a-z][a-z0-9_ ]*$/.test(name) ? sheetLabel(name) : name;

/** A file's name as a heading: `spring_trips` is Spring trips. */
export function sheetLabel(name: string): string {
  const words = name.replace(/[_]+|(?<=\w)-(?=\w)/g, ' ').trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** `Area (m²)` and `Area [m²]` are an area in m². */
export function labelAndUnit(heading: string): [label: string, unit: string] {
  const [, label = '', unit = ''] = /^(.+?)\s*[([]([^()[\]\d]{1,12})[)\]]$/.exec(heading) ?? [];
  return label === '' ? [heading, ''] : [label, unit];
}

/** The heading of what was wrong in a file of refused rows; brought again, it is no column. */
export const WHAT_IS_WRONG = 'What is wrong';
