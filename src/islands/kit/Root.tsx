import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { I18nProvider } from 'react-aria-components';
import { Refused } from './call';
import { formatsHere, localeOf } from '../../core/formats/formats';

const tryAgain = (failures: number, error: Error): boolean => failures < 1 && !(error instanceof Refused);

/** What every island stands in. A client per mount: a shared one hydrates wrongly. */
export function Root({ children }: { children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: { queries: { staleTime: 5_000, retry: tryAgain, refetchOnWindowFocus: false } },
      }),
  );
  return (
    <QueryClientProvider client={client}>
      <I18nProvider locale={localeOf(formatsHere())}>{children}</I18nProvider>
    </QueryClientProvider>
  );
}
