/** Addresses of the API: the server mounts them and clients call them, both from here. */
export const routes = {
  health: '/api/health',
  yards: '/api/yards',
  yard: (id: number | ':id') => `/api/yards/${id}`,
  yardPieces: (id: number | ':id') => `/api/yards/${id}/pieces`,
  piece: (id: number | ':id') => `/api/pieces/${id}`,
  pieceApart: (id: number | ':id') => `/api/pieces/${id}/apart`,
  pieceMeasured: (id: number | ':id') => `/api/pieces/${id}/measured`,
  pieceVersions: (id: number | ':id') => `/api/pieces/${id}/versions`,
  pieceVersion: (id: number | ':id', version: number | ':version') => `/api/pieces/${id}/versions/${version}`,
  pieceRestored: (id: number | ':id') => `/api/pieces/${id}/restored`,
  piecePicture: (id: number | ':id') => `/api/pieces/${id}/picture`,
  pieceDeliveries: (id: number | ':id') => `/api/pieces/${id}/deliveries`,
  deliveriesBefore: (id: number, before: number) => `/api/pieces/${id}/deliveries?before=${before}`,
  deliveryBundle: (id: number | ':id') => `/api/deliveries/${id}/bundle`,
  blob: (id: string) => `/api/blobs/${id}`,
} as const;

/** A delivery's bundle is named by its mesh name, which is legal everywhere. */
export const bundleName = (fileNames: readonly string[]): string =>
  `${(fileNames[0] ?? 'delivery').replace(/\.[^.]*$/, '')}.zip`;
