import { useCallback } from 'react';
import { useNavigate, type NavigateOptions, type To } from 'react-router';

/** Goes to a place of the application. It is there before the next key is pressed: that key is for it. */
export function useGo(): (to: To, options?: NavigateOptions) => void {
  const navigate = useNavigate();
  return useCallback((to, options) => void navigate(to, { flushSync: true, ...options }), [navigate]);
}

/** Goes back to where one came from. */
export function useGoBack(): () => void {
  const navigate = useNavigate();
  return useCallback(() => void navigate(-1), [navigate]);
}
