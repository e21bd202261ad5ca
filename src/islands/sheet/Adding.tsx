import { lazy, Suspense, useState, type ReactNode } from 'react';
import { AddMissing, type Missing } from './add-missing';

/** Fetched when somebody adds something. */
const AddRecord = lazy(() => import('./AddRecord'));

/** Where what is missing from a lookup is added on the spot. */
export function Adding({ children }: { children: ReactNode }) {
  const [missing, setMissing] = useState<Missing | null>(null);
  return (
    <AddMissing value={setMissing}>
      {children}
      {missing !== null && (
        <Suspense>
          <AddRecord
            {...missing}
            onAdded={(id) => {
              setMissing(null);
              missing.onAdded(id);
            }}
            onClose={() => setMissing(null)}
          />
        </Suspense>
      )}
    </AddMissing>
  );
}
