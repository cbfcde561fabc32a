import { useLocation } from "react-router";
import { useTakeAddress } from "../study/queries";
import { Button } from "../ui/Button";
import { Notice } from "../ui/States";
import { Outside } from "./Outside";

/** Another address to sign in with: taken by a click, as mail programs open addresses by themselves. */
export function AddressPage() {
  const key = useLocation().hash.slice(1);
  const take = useTakeAddress();
  return (
    <Outside title="Your new address">
      {take.error && <Notice kind="wrong">{take.error.message}</Notice>}
      {take.data ? (
        <>
          <Notice kind="good">You sign in with {take.data.email} from now on.</Notice>
          <a href="/" className="under self-start hover:text-berry">
            To Dakika
          </a>
        </>
      ) : key === "" ? (
        <Notice kind="wrong">The address is cut off: take it from the letter as a whole.</Notice>
      ) : (
        <Button kind="main" className="self-start" isBusy={take.isPending} onClick={() => take.mutate(key)}>
          Sign in with it from now on
        </Button>
      )}
    </Outside>
  );
}
