import "./rider.css";
import "./practice.css";
import { Button, chakra, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, api, words } from "../api/client";
import { devicesQuery } from "../api/queries";
import type { DeviceView, DevicesView, Mishap } from "../api/types";
import { Choice } from "../ui/Choice";
import { day } from "../ui/format";
import { Page } from "../ui/Page";

/** Devices: what is connected, what it gave last, and what goes wrong with it next. */
export default function DevicesPage() {
  const devices = useQuery(devicesQuery);
  const queries = useQueryClient();
  const [wrong, setWrong] = useState<string>();
  const set = (device: DeviceView, connected: boolean, fault: Mishap | null) => {
    setWrong(undefined);
    answer<DevicesView>(
      api.PUT("/api/devices/{kind}", { params: { path: { kind: device.kind } }, body: { connected, fault } }),
    ).then(
      (view) => queries.setQueryData(devicesQuery.queryKey, view),
      (error: unknown) => setWrong(words(error)),
    );
  };
  return (
    <Page title="Devices">
      <Flex gap="24px" fontSize="16px" color="tide" textDecoration="underline">
        <Link to="/">Back to the room</Link>
        <Link to="/practice">Practice: a rider to try them on</Link>
      </Flex>
      <chakra.h1 fontSize="29px">Devices</chakra.h1>
      <p className="number-hint">
        Stand-ins ship with Wedge: they take, weigh and move a simulated rider, never a real one. Whatever comes from
        one is marked simulated, in the record, on screen and on the hand-out, for ever. Files of real cameras and
        trainers are taken in on the page of takes.
      </p>
      {(devices.error ?? wrong) && (
        <p className="number-error" role="alert">
          {wrong ?? words(devices.error)}
        </p>
      )}
      <ul className="devices">
        {devices.data?.devices.map((device) => (
          <li key={device.kind}>
            <Device device={device} faults={devices.data.faults} onSet={(on, fault) => set(device, on, fault)} />
          </li>
        ))}
      </ul>
    </Page>
  );
}

interface DeviceProps {
  device: DeviceView;
  faults: DevicesView["faults"];
  onSet: (connected: boolean, fault: Mishap | null) => void;
}

function Device({ device, faults, onSet }: DeviceProps) {
  const { label, state, connected, sends, fault, last, last_at, stops } = device;
  return (
    <section className="device" aria-labelledby={device.kind}>
      <div>
        <h2 id={device.kind}>
          {label}: <span className={connected ? "on" : "off"}>{state}</span>
        </h2>
        <p>
          {last != null && last_at != null ? `Last: ${last}, ${day(last_at.slice(0, 10))}.` : "Nothing was taken yet."}
        </p>
        <p className="number-hint">A real one: {sends}</p>
        {stops.length > 0 && (
          <p className="number-hint">
            Its stops:{" "}
            {stops.map((stop) => `${stop.label.toLowerCase()} ${stop.least_mm} to ${stop.most_mm} mm`).join("; ")}.
          </p>
        )}
      </div>
      <div className="device-set">
        <Button onClick={() => onSet(!connected, fault ?? null)}>
          {connected ? "Disconnect" : "Connect the stand-in"}
          <span className="visually-hidden">, {label.toLowerCase()}</span>
        </Button>
        {connected && (
          <Choice
            label={`What goes wrong with it next, ${label.toLowerCase()}`}
            options={faults}
            value={fault ?? null}
            none="nothing"
            onPick={(key) => onSet(connected, key)}
          />
        )}
      </div>
    </section>
  );
}
