import { formatsFrom, standardFormats, type FormatsHere } from '../../core/formats/formats';

/**
 * Before any island wakes: the first element of the page carries how whoever looks reads days and numbers, as
 * the server wrote them. Run once, see `astro.config.mjs`.
 */
const said = JSON.parse(document.documentElement.dataset['formats'] ?? '{}') as Partial<FormatsHere>;
const here: FormatsHere = { ...standardFormats, zone: 'UTC', ...said };
formatsFrom(() => here);
// The words of another language are fetched by those who read it.
if (here.language === 'de') await import('../../core/wording/languages/german');
