/** Days, years of numbers and times of day are those of the garden, on every machine, until workspaces have settings of their own. */
export const workspaceZone = 'Europe/London';
