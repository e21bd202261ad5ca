import { AsyncLocalStorage } from 'node:async_hooks';
import '../core/wording/languages/german';
import { formatsFrom, standardFormats, type FormatsHere } from '../core/formats/formats';

/** How days and numbers are written for whoever a request is answered for, or a mail is written to (ADR 44). */
const shown = new AsyncLocalStorage<FormatsHere>();

const standard: FormatsHere = { ...standardFormats, zone: 'UTC' };
formatsFrom(() => shown.getStore() ?? standard);

export const showingTo = <T>(formats: FormatsHere, work: () => T): T => shown.run(formats, work);
