import type { APIRoute } from 'astro';
import { problem, thrown } from '../../http/problem';
import { dueCalendar } from '../../use-cases/notices/due-calendar';

/** For programs that show calendars: they know a secret, and do not sign in. */
export const GET: APIRoute = async ({ params }) => {
  try {
    const found = await dueCalendar(params['secret'] ?? '', new Date());
    return found.ok
      ? new Response(found.value, {
          headers: { 'content-type': 'text/calendar; charset=utf-8', 'cache-control': 'no-store' },
        })
      : problem(found.error);
  } catch (error) {
    // The address is a secret, so it is not logged.
    return thrown(error, '/calendar');
  }
};
