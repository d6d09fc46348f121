import { chakra, Flex } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, api, words } from "../api/client";
import { lanQuery } from "../api/queries";
import type { LanView } from "../api/types";
import { Problem } from "../ui/Problem";

/** The room's network: where a tablet beside the bike comes in, what it compares, and who is in. */
export function LanSection() {
  const lan = useQuery(lanQuery);
  const queries = useQueryClient();
  const out = useMutation({
    mutationFn: (id: string) => answer<LanView>(api.DELETE("/api/lan/devices/{id}", { params: { path: { id } } })),
    onSettled: () => queries.invalidateQueries(lanQuery),
  });
  if (!lan.data) return null;
  const { open, urls, qr, fingerprint, devices } = lan.data;
  return (
    <chakra.section marginTop="28px" aria-labelledby="lan">
      <h2 id="lan">In the room’s network</h2>
      {!open && (
        <p>
          Closed: only this machine is let in. For a tablet beside the bike, choose a passphrase with{" "}
          <code>wedge passphrase</code> and start with <code>wedge serve --lan</code>.
        </p>
      )}
      {open && (
        <Flex gap="28px" wrap="wrap" align="start">
          {qr && <img src={`data:image/svg+xml,${encodeURIComponent(qr)}`} alt={`A code for ${urls[0] ?? ""}`} />}
          <div>
            <p>
              Open at <b>{urls.join(", ") || "no network: this machine is in none"}</b>
            </p>
            <p className="number-hint">
              The device warns that it does not know the certificate. Let it show the SHA-256 fingerprint, and go on
              only if it is this one:
            </p>
            <p>
              <code className="fingerprint">{fingerprint}</code>
            </p>
            {devices.length === 0 ? (
              <p>No device is in.</p>
            ) : (
              <table className="rows">
                <tbody>
                  {devices.map((device) => (
                    <tr key={device.id}>
                      <th scope="row">{device.name}</th>
                      <td>{device.address}</td>
                      <td>
                        <button
                          type="button"
                          className="more"
                          aria-label={`Put ${device.name} out`}
                          onClick={() => out.mutate(device.id)}
                        >
                          put out
                        </button>
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
            <Problem words={out.error ? words(out.error) : undefined} />
          </div>
        </Flex>
      )}
    </chakra.section>
  );
}
