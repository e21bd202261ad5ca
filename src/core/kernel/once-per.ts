/** What is made of something that never changes is made once, and goes when that goes. */
export function oncePer<K extends object, V>(make: (key: K) => V): (key: K) => V {
  const made = new WeakMap<K, { readonly value: V }>();
  return (key) => {
    let known = made.get(key);
    if (known === undefined) made.set(key, (known = { value: make(key) }));
    return known.value;
  };
}
