import { feedQuery } from '../../../contract/events';
import { API } from '../../../core/api/open-api';
import { CLOUD_EVENTS } from '../../../core/event/event';
import { ok } from '../../../core/kernel/result';
import { apiEndpoint } from '../../../http/api-endpoint';
import { readFeed } from '../../../use-cases/events/read-feed';

export const GET = apiEndpoint({
  query: feedQuery,
  answer: async (context, { query, url }) => {
    const feed = await readFeed(context, query);
    if (!feed.ok) return feed;
    const { events, next } = feed.value;
    const on = new URL(url);
    on.searchParams.set('lastEventId', String(next));
    return ok({
      status: 200,
      body: events,
      headers: {
        'content-type': CLOUD_EVENTS,
        ...(next !== null && { link: `<${API}/events${on.search}>; rel="next"` }),
      },
    });
  },
});
