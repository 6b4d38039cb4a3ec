declare module 'geographiclib-geodesic' {
  interface Ellipsoid {
    Inverse(lat1: number, lon1: number, lat2: number, lon2: number): { s12?: number; azi1?: number };
    Direct(lat1: number, lon1: number, azi1: number, s12: number): { lat2?: number; lon2?: number };
  }
  const geodesic: { Geodesic: { WGS84: Ellipsoid } };
  export default geodesic;
}
