import { useQuery } from '@tanstack/react-query';
import { mapRoutes } from '@tombolo/contract/routes/maps';
import { ask, upload, urlOf } from './ask';

export const mapApi = {
  maps: () => ask(mapRoutes.maps, {}),
  addMap: (file: Blob, name: string, kind: string, progress: (share: number) => void) =>
    upload(mapRoutes.addMap, { query: { name, kind } }, file, progress),
  removeMap: (id: string) => ask(mapRoutes.removeMap, { params: { id } }),
  mapUrl: (id: string) => urlOf(mapRoutes.mapContent, { params: { id } }),
};

export const useMaps = () => useQuery({ queryKey: ['maps'], queryFn: mapApi.maps, staleTime: Infinity });
