/** Width and height in pixels from the header of a PNG, JPEG or WebP; zeros where it cannot be read. */
export function pictureSize(bytes: Uint8Array): { width: number; height: number } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const none = { width: 0, height: 0 };
  if (bytes.length < 30) return none;
  if (view.getUint32(0) === 0x89504e47) return { width: view.getUint32(16), height: view.getUint32(20) };
  if (view.getUint16(0) === 0xffd8) return jpegSize(view) ?? none;
  if (view.getUint32(0) === 0x52494646 && view.getUint32(8) === 0x57454250) return webpSize(view);
  return none;
}

/** The first frame header among a JPEG's segments. */
function jpegSize(view: DataView): { width: number; height: number } | null {
  for (let at = 2; at + 9 < view.byteLength && view.getUint8(at) === 0xff;) {
    const mark = view.getUint8(at + 1);
    const isFrame = mark >= 0xc0 && mark <= 0xcf && mark !== 0xc4 && mark !== 0xc8 && mark !== 0xcc;
    if (isFrame) return { height: view.getUint16(at + 5), width: view.getUint16(at + 7) };
    at += 2 + view.getUint16(at + 2);
  }
  return null;
}

function webpSize(view: DataView): { width: number; height: number } {
  const kind = view.getUint32(12);
  if (kind === 0x56503858) {
    const three = (at: number) => view.getUint16(at, true) + view.getUint8(at + 2) * 65536;
    return { width: three(24) + 1, height: three(27) + 1 };
  }
  if (kind === 0x5650384c) {
    const bits = view.getUint32(21, true);
    return { width: (bits & 0x3fff) + 1, height: ((bits >>> 14) & 0x3fff) + 1 };
  }
  return { width: view.getUint16(26, true) & 0x3fff, height: view.getUint16(28, true) & 0x3fff };
}
