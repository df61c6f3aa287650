import { viewHeader } from '@/contract/frame';

/** Pieces that scripts of the page fetch are made with what is typed, as the page is: each request says whose it is. */
export function sayViewWhenFetching(view: string): void {
  const isPiece = (address: string | URL): boolean => {
    if (!URL.canParse(String(address), location.href)) return false;
    const { origin, pathname } = new URL(address, location.href);
    return origin === location.origin && pathname.includes('/fragment/');
  };
  const fetchPlain = window.fetch.bind(window);
  window.fetch = (input, init) => {
    if (!isPiece(input instanceof Request ? input.url : input)) return fetchPlain(input, init);
    const request = new Request(input, init);
    request.headers.set(viewHeader, view);
    return fetchPlain(request);
  };
  type Open = (this: XMLHttpRequest, method: string, address: string | URL, ...rest: unknown[]) => void;
  const open: Open = XMLHttpRequest.prototype.open;
  XMLHttpRequest.prototype.open = function (this: XMLHttpRequest, method: string, address: string | URL, ...rest) {
    open.call(this, method, address, ...(rest as unknown[]));
    if (isPiece(address)) this.setRequestHeader(viewHeader, view);
  } as Open;
}
