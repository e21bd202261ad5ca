/** As a `ref`: what comes because somebody asked for it is where they go on. */
export const focused = (element: HTMLElement | null): void => element?.focus();
