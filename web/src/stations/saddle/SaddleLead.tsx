import { useQuery } from "@tanstack/react-query";
import { mapQuery } from "../../api/queries";
import { useFit } from "../../fit/useFit";
import { useKeys } from "../../ui/keys";
import { SaddleMap } from "./SaddleMap";

/** The map of the saddle, above everything else while it is open. */
export function SaddleLead() {
  const { view, version, closed, shown } = useFit();
  const open = closed && shown.is("map");
  const map = useQuery({ ...mapQuery(view.session.id, version), enabled: open }).data;
  useKeys({ d: closed ? () => shown.toggle("map") : undefined });
  return open && map ? <SaddleMap shown={map} /> : null;
}
