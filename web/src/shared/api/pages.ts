/** How a list is paged: by the cursor that each page names for the next. */
export const pages = {
  initialPageParam: undefined as string | undefined,
  getNextPageParam: (page: { next: string | null }) => page.next ?? undefined,
};
