import { useForm } from "react-hook-form";
import { moment } from "../../lib/days";
import { plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Entry, Form } from "../../ui/Form";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { type Report, useReportActs, useVersions } from "./queries";

type Props = { report: number; isEditable: boolean; onClose: () => void; onBack: (report: Report) => void };

/** What a report was, and the way back. */
export function VersionsSheet({ report, isEditable, onClose, onBack }: Props) {
  const { brand } = useBrand();
  const say = useToast();
  const versions = useVersions(brand.slug, report);
  const { name, goBack } = useReportActs(brand.slug);
  const form = useForm({ defaultValues: { typed: "" } });
  const { typed } = form.watch();
  return (
    <Sheet isOpen onClose={onClose} title="What it was">
      {isEditable && (
        <Form
          form={form}
          error={name.error}
          className="mb-3 flex flex-wrap items-end gap-2"
          onSubmit={() => {
            name.mutateAsync({ id: report, name: typed }).then(
              () => {
                form.setValue("typed", "");
                say("Kept under this name.");
              },
              () => undefined,
            );
          }}
        >
          <Entry form={form} name="typed" label="Keep it as it is now under a name">
            {(field) => <input {...field} maxLength={80} />}
          </Entry>
          <Button type="submit" isBusy={name.isPending} disabled={!typed.trim()}>
            Keep
          </Button>
        </Form>
      )}
      {versions.error ? (
        <Failed error={versions.error} onRetry={() => versions.refetch()} />
      ) : !versions.data ? (
        <Loading />
      ) : versions.data.length === 0 ? (
        <p className="label">It was not changed yet. What it is before a change is kept here.</p>
      ) : (
        <ul>
          {versions.data.map((one) => (
            <li key={one.edition} className="rowline flex items-center justify-between gap-2 py-1.5">
              <span>
                {one.name || one.title}
                <span className="label block">
                  until {moment(one.at, brand.time_zone)}
                  {one.by && `, changed by ${one.by}`}, {plural(one.pages, "page")}
                </span>
              </span>
              {isEditable && (
                <Button
                  isBusy={goBack.isPending}
                  onClick={() =>
                    goBack.mutateAsync({ id: report, edition: one.edition }).then(
                      (back) => {
                        onBack(back);
                        onClose();
                      },
                      (error: Error) => say(error.message, "wrong"),
                    )
                  }
                >
                  Go back to it
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
    </Sheet>
  );
}
