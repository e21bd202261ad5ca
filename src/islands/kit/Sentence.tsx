import type { ReactNode } from 'react';

/** A setting as a sentence with picks inside it. */
export function Sentence({ children }: { children: ReactNode }) {
  return (
    <div data-sentence className="mb-1.5 flex flex-wrap items-center gap-x-1.5 gap-y-1 text-[14px] leading-7">
      {children}
    </div>
  );
}

interface WordProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly placeholder?: string;
  readonly mono?: boolean;
  readonly list?: string;
}

/** A word of a sentence that is typed. */
export function Word({ label, value, onChange, placeholder, mono = false, list }: WordProps) {
  return (
    <input
      aria-label={label}
      value={value}
      placeholder={placeholder}
      list={list}
      maxLength={200}
      onChange={(event) => onChange(event.target.value)}
      className={`field-sizing-content max-w-full min-w-12 rounded border border-slate-400 bg-white px-1.5 py-0 text-[14px] font-semibold ${mono ? 'font-mono' : ''}`}
    />
  );
}

/** A whole number inside a sentence; what is not one is put back when left. */
export function NumberWord({
  label,
  value,
  onChange,
  least = 0,
  most = 100_000,
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
  least?: number;
  most?: number;
}) {
  return (
    <input
      key={value}
      aria-label={label}
      defaultValue={value}
      inputMode="numeric"
      className="field-sizing-content min-w-8 rounded border border-slate-400 bg-white px-1.5 text-center text-[14px] font-semibold"
      onBlur={(event) => {
        const next = Number(event.target.value.trim());
        if (Number.isInteger(next) && next >= least && next <= most) onChange(next);
        else event.target.value = String(value);
      }}
    />
  );
}
