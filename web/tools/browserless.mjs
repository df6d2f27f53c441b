// What loaders want of a browser to take an image: that there is one.
globalThis.self ??= globalThis
globalThis.createImageBitmap ??= async () => ({ width: 1, height: 1, close() {} })
globalThis.document ??= {
  createElementNS: () => ({
    addEventListener(kind, done) {
      if (kind === 'load') setTimeout(() => done.call(this), 0)
    },
    removeEventListener() {},
  }),
}
