"""Questions to a server under test, which may take their time: machines are noisy."""

import httpx2

CLIENT = httpx2.Client(timeout=120)
get, post, put = CLIENT.get, CLIENT.post, CLIENT.put
