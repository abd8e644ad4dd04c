import 'fake-indexeddb/auto';
import { enableAutoUnmount } from '@vue/test-utils';
import { afterEach, beforeEach, vi } from 'vitest';

/** What the pretended browser lacks and the component library asks for. */
class NoObserver {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
}
vi.stubGlobal('ResizeObserver', NoObserver);
vi.stubGlobal('IntersectionObserver', NoObserver);
Element.prototype.scrollIntoView = () => undefined;

enableAutoUnmount(afterEach);
beforeEach(() => {
  localStorage.clear();
});
afterEach(() => {
  document.body.innerHTML = '';
});
