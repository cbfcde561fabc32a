/** A page of ours as a PDF: asked for, waited for while the worker makes it, and saved under its name. */

import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { download } from "../charts/save";
import { plural } from "../lib/format";

type Printed = Schemas["PrintedPage"];
const LOOK_MS = 700;
// Longer than any page takes that is being made: then nobody is at it. Asked for again, it is the same page.
const LONGEST_MS = 180_000;
const isToCome = (page: Printed) => page.state === "waiting" || page.state === "printing";

/** How far a page is, for its button. */
export function printedText(page: Printed | null): string {
  return page !== null && page.before > 0 ? `After ${plural(page.before, "page")} of others` : "Making the PDF";
}

/** Have a page printed. It is saved even when another view was opened in the meantime. */
export function usePrinting(brand: string, ask: () => Promise<Printed>) {
  const [page, setPage] = useState<Printed | null>(null);
  const printing = useMutation({
    mutationFn: async () => {
      let made = await ask();
      const params = { path: { brand, id: made.id } };
      let since = Date.now();
      while (isToCome(made)) {
        setPage(made);
        if (Date.now() - since > LONGEST_MS)
          throw new Error("The page is not made yet. It stays in line: ask for it again in a few minutes.");
        const { before } = made;
        await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
        made = await unwrap(api.GET("/api/brands/{brand}/printed/{id}", { params }));
        if (made.before < before) since = Date.now();
      }
      if (made.state === "failed") throw new Error(made.detail);
      const file = await unwrap(api.GET("/api/brands/{brand}/printed/{id}/file", { params, parseAs: "blob" }));
      download(file as unknown as Blob, made.file_name);
    },
    onSettled: () => setPage(null),
  });
  return { page, ...printing };
}
