import { useSession } from "../../study/queries";

/** The clock for what is no brand's: the person's own choice, else their browser's. */
export function useZone(): string {
  return useSession().data?.time_zone || Intl.DateTimeFormat().resolvedOptions().timeZone;
}
