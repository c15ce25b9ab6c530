import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";

/** What a cron expression means: in words, and the next times; or the trouble with it. */
export function useCron(text?: string) {
  return useQuery({
    queryKey: ["cron", text],
    enabled: !!text?.trim(),
    retry: false,
    queryFn: () => ask(api.GET("/api/v1/cron", { params: { query: { text: text ?? "" } } })),
  });
}
