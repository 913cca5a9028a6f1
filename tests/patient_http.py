"""Questions to a server under test, which may take their time: machines are noisy."""

import httpx2

# A connection that was left open may be closed by the server as the next question is sent.
CLIENT = httpx2.Client(timeout=120, limits=httpx2.Limits(max_keepalive_connections=0))
get, post, put = CLIENT.get, CLIENT.post, CLIENT.put
