import { createServer, type AddressInfo, type Socket } from 'node:net';

/** An SMTP server that says these replies, one for each command; null says nothing, for ever. */
export async function fakeSmtp(replies: Record<string, string | null>) {
  const sockets = new Set<Socket>();
  const listening = createServer((socket) => {
    sockets.add(socket);
    socket.on('error', () => undefined);
    socket.on('close', () => sockets.delete(socket));
    const say = (name: string, usual: string) => {
      const reply = name in replies ? replies[name] : usual;
      if (reply) socket.write(`${reply}\r\n`);
    };
    say('greeting', '220 here');
    let data = false;
    socket.on('data', (chunk) => {
      for (const line of chunk.toString().split('\r\n').filter(Boolean)) {
        if (data) {
          if (line !== '.') continue;
          data = false;
          say('end', '250 taken');
          continue;
        }
        const command = line.slice(0, 4).toUpperCase();
        if (command === 'DATA') data = true;
        say(command, command === 'DATA' ? '354 go on' : command === 'QUIT' ? '221 bye' : '250 ok');
      }
    });
  });
  await new Promise<void>((resolve) => listening.listen(0, '127.0.0.1', resolve));
  const url = `smtp://127.0.0.1:${(listening.address() as AddressInfo).port}`;
  const end = () => {
    for (const socket of sockets) socket.destroy();
    listening.close();
  };
  /** How many conversations are open. */
  const open = () => sockets.size;
  return { url, end, open };
}
