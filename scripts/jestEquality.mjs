// Long rows of numbers are compared by their bytes: one by one, as Jest does, a picture takes seconds. Where they
// differ Jest looks itself and says where.
const bytesOf = (view) => Buffer.from(view.buffer, view.byteOffset, view.byteLength);

expect.addEqualityTesters([
  (a, b) =>
    ArrayBuffer.isView(a) && ArrayBuffer.isView(b) && a.constructor === b.constructor && bytesOf(a).equals(bytesOf(b))
      ? true
      : undefined,
]);
