import {
  Button,
  Text,
  UNSTABLE_Toast as Toast,
  UNSTABLE_ToastContent as ToastContent,
  UNSTABLE_ToastQueue as ToastQueue,
  UNSTABLE_ToastRegion as ToastRegion,
} from 'react-aria-components';

interface Said {
  readonly words: string;
  readonly button: string;
  readonly act: () => void;
}

const queue = new ToastQueue<Said>({ maxVisibleToasts: 2 });

/** Long enough to read it, find the button and press it. */
const SHOWN_MS = 12_000;

/** Shows what happened; `say.ts` is how it is said. */
export function show(words: string, button: string, act: () => void): void {
  queue.add({ words, button, act }, { timeout: SHOWN_MS });
}

export default function Toasts() {
  return (
    <ToastRegion queue={queue} className="fixed bottom-4 left-4 grid gap-2 outline-none">
      {({ toast }) => (
        <Toast toast={toast} className="flex items-center gap-4 rounded-md bg-slate-900 px-4 py-2 text-white">
          <ToastContent>
            <Text slot="title">{toast.content.words}</Text>
          </ToastContent>
          <Button
            className="rounded px-1 font-semibold text-marker hover:underline"
            onPress={() => {
              toast.content.act();
              queue.close(toast.key);
            }}
          >
            {toast.content.button}
          </Button>
        </Toast>
      )}
    </ToastRegion>
  );
}
