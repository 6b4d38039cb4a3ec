import { router, useLocalSearchParams } from 'expo-router';
import { StationPanel } from '../../src/places/chart/station/station-panel';

export { ErrorBoundary } from '../../src/places/boundary';

export default function Station() {
  const { call = '' } = useLocalSearchParams<{ call?: string }>();
  return <StationPanel key={call} call={call} close={() => router.navigate('/chart')} />;
}
