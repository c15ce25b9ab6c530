import { useSearchParams } from "react-router";

/** A choice kept in the address, without a step of the history for each change: its value, if any, and how to set it. */
export function useSearchValue(name: string): [string | null, (value: string) => void] {
  const [search, setSearch] = useSearchParams();
  const set = (value: string) => {
    const next = new URLSearchParams(search);
    next.set(name, value);
    setSearch(next, { replace: true });
  };
  return [search.get(name), set];
}

/** The same for the place in a list, which is zero for addresses that name none. */
export function useSearchIndex(name: string): [number, (index: number) => void] {
  const [value, set] = useSearchValue(name);
  return [Number(value ?? 0) || 0, (index) => set(String(index))];
}
