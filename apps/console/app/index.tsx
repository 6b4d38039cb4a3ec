import { Redirect } from 'expo-router';

export { ErrorBoundary } from '../src/places/boundary';

export default function Start() {
  return <Redirect href="/traffic" />;
}
