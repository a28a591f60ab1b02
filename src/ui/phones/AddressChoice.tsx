// Addresses of this computer; a phone finds it at the one of the network that both are on.

type Props = {
  at: { host: string; connection: string }[];
  chosen: number;
  choose: (index: number) => void;
};

export function AddressChoice({ at, chosen, choose }: Props) {
  if (at.length === 1)
    return (
      <p className="mt-4">
        A phone finds it at <b className="font-mono">http://{at[0]!.host}</b>
      </p>
    );
  return (
    <fieldset className="mt-4">
      <legend>A phone finds it at the address of the network that both are on:</legend>
      {at.map(({ host, connection }, i) => (
        <label key={host} className="flex min-h-9 cursor-pointer items-center gap-3">
          <input
            type="radio"
            name="address"
            className="radio radio-sm"
            checked={i === chosen}
            onChange={() => choose(i)}
          />
          <b className="font-mono break-all">http://{host}</b>
          {connection && <span className="soft">{connection}</span>}
        </label>
      ))}
    </fieldset>
  );
}
