/** WGS 84. */
const A_M = 6_378_137;
const E2 = 0.006_694_379_990_14;

interface Place {
  readonly latitude: number;
  readonly longitude: number;
}

/**
 * A plane that touches the ellipsoid at a place: metres east and north of it, by the radii of curvature there. Within 30 km it is off by less
 * than 0.3 % (a test compares it with geodesics), and many times quicker.
 */
export function planeAt({
  latitude,
  longitude,
}: Place): (place: Place) => { readonly east: number; readonly north: number } {
  const phi = (latitude * Math.PI) / 180;
  const w = Math.sqrt(1 - E2 * Math.sin(phi) ** 2);
  const northPerDegree = ((A_M * (1 - E2)) / w ** 3) * (Math.PI / 180);
  const eastPerDegree = ((A_M * Math.cos(phi)) / w) * (Math.PI / 180);
  return (place) => {
    // Over the antimeridian the short way.
    const across = ((((place.longitude - longitude + 180) % 360) + 360) % 360) - 180;
    return { east: across * eastPerDegree, north: (place.latitude - latitude) * northPerDegree };
  };
}
