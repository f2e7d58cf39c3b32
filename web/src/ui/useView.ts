import { useSearchParams } from "react-router";

interface Named<V extends string> {
  value: V;
  text: string;
}

/** Which view of a page the address asks for, the first where it asks for none, and its switch. */
export function useView<V extends string>(
  views: readonly [Named<V>, ...Named<V>[]],
): [view: V, setView: (next: V) => void] {
  const [query, setQuery] = useSearchParams();
  const first = views[0].value;
  const view = views.find((other) => other.value === query.get("view"))?.value ?? first;
  return [view, (next) => setQuery(next === first ? {} : { view: next }, { replace: true })];
}
