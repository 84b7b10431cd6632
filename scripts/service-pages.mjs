/** What a page stands in for: any value of a part that is the person's own, such as the id of a build. */
const ANY = 'any';

/**
 * Every page the routes can show, one for each route: `any` stands where the address holds something of the person's own.
 * `known` gives the values of the parts the server knows, such as the demos: those pages are kept one by one. Answers, beside
 * the pages, which of them stands in for which addresses, as source texts of regular expressions.
 */
export function pagesOf(routes, known = {}) {
  const pathOf = (route) =>
    [route.parentId ? pathOf(routes[route.parentId]) : '', route.path ?? ''].filter((part) => part !== '').join('/');
  const parents = new Set(Object.values(routes).map(({ parentId }) => parentId));
  const paths = Object.values(routes)
    .filter((route) => route.index || (route.path !== undefined && !parents.has(route.id)))
    .map(pathOf)
    .filter((one) => !one.includes('*'));
  const pages = [];
  const patterns = [];
  for (const one of paths) {
    const parts = one.split('/').filter((part) => part !== '');
    const values = parts.find((part) => known[part.slice(1)] !== undefined && part.startsWith(':'));
    if (values) {
      for (const value of known[values.slice(1)]) pages.push(`/${one.replace(values, value)}`);
      continue;
    }
    const page = `/${parts.map((part) => (part.startsWith(':') ? ANY : part)).join('/')}`;
    pages.push(page);
    if (parts.some((part) => part.startsWith(':')))
      patterns.push([`^/${parts.map((part) => (part.startsWith(':') ? '[^/]+' : part)).join('/')}/?$`, page]);
  }
  return { pages, patterns };
}
