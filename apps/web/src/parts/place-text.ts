/** `Wire, pylon-ridge, mast-2` for `wire?scope=pylon-ridge&at=mast-2`. */
export function placeText(place: string): string {
  const [path, query = ''] = place.split('?');
  const view = path.split('/').pop() ?? '';
  const params = new URLSearchParams(query);
  const named = ['scope', 'asset', 'at', 'event', 'rule', 'name'].flatMap((name) => params.get(name) ?? []);
  return [view === '' ? 'Oquel' : view[0].toUpperCase() + view.slice(1), ...named].join(', ');
}
