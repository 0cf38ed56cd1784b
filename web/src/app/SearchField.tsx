import { Search } from "lucide-react";
import type { Ref } from "react";

interface SearchFieldProps {
  readonly label: string;
  readonly hint: string;
  readonly value: string;
  readonly onChange: (text: string) => void;
  readonly field?: Ref<HTMLInputElement>;
}

export function SearchField({ label, hint, value, onChange, field }: SearchFieldProps) {
  return (
    <label className="flex min-w-48 grow items-center gap-2 rounded-lg border border-field bg-sheet px-3 has-[input:focus-visible]:outline-3 has-[input:focus-visible]:outline-copper">
      <Search size={20} aria-hidden className="text-faint" />
      <span className="sr-only">{label}</span>
      <input
        ref={field}
        type="search"
        value={value}
        onChange={(e) => onChange(e.target.value)}
        placeholder={hint}
        className="min-w-0 grow bg-transparent py-2.5 placeholder:text-faint focus:outline-none"
      />
    </label>
  );
}
