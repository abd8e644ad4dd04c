import 'fake-indexeddb/auto';
import { disableAutoUnmount, enableAutoUnmount } from '@vue/test-utils';
import { afterEach, beforeEach, vi } from 'vitest';

/** What the pretended browser lacks and the component library asks for. */
class NoObserver {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
}
/** Tells the size that an element says it has, once. */
class SizeObserver extends NoObserver {
  constructor(private readonly tell: ResizeObserverCallback) {
    super();
  }
  override observe(target?: Element): void {
    const { clientWidth: width, clientHeight: height } = target!;
    const size = [{ inlineSize: width, blockSize: height }];
    const entry = { target, contentRect: { width, height }, borderBoxSize: size, contentBoxSize: size };
    queueMicrotask(() => this.tell([entry as never], this as never));
  }
}
/** Everything is in view. */
class SeenObserver extends NoObserver {
  constructor(private readonly tell: IntersectionObserverCallback) {
    super();
  }
  override observe(target?: Element): void {
    queueMicrotask(() => this.tell([{ target, isIntersecting: true } as never], this as never));
  }
}
vi.stubGlobal('ResizeObserver', SizeObserver);
vi.stubGlobal('IntersectionObserver', SeenObserver);
Element.prototype.scrollIntoView = () => undefined;

disableAutoUnmount();
enableAutoUnmount(afterEach);
beforeEach(() => {
  localStorage.clear();
});
afterEach(() => {
  document.body.innerHTML = '';
});
