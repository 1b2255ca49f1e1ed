/** Two letters that stand for an asset on the plan: `WindMast` is WM, `rope-gauge` RG, `Cabin` Ca. */
export function monogram(id: string): string {
  const words = id.match(/[A-Z]+(?![a-z])|[A-Z]?[a-z]+|\d+/g) ?? [id];
  if (words.length === 1) return words[0].slice(0, 1).toUpperCase() + words[0].slice(1, 2);
  return words
    .slice(0, 2)
    .map((w) => w.slice(0, 1).toUpperCase())
    .join('');
}
