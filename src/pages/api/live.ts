import type { APIRoute } from 'astro';
import { liveTopic, liveTopics } from '../../contract/requests';
import { liveStream } from '../../http/live-stream';

export const GET: APIRoute = (api) => {
  const topics = liveTopics
    .parse({ topics: (api.url.searchParams.get('topics') ?? '').slice(0, 1_000) })
    .topics.split(',');
  return liveStream(api, topics.filter((topic) => liveTopic.safeParse(topic).success).slice(0, 20));
};
