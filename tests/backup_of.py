"""A backup from a running server, as its page fetches one: begun, looked at, and taken once it is whole."""

import time


def backup_of(client, **wanted):
    """The answer with the file."""
    while (begun := client.post("/api/backup", params=wanted)).status_code == 409:
        time.sleep(0.05)  # as many as are allowed go on
    job = begun.raise_for_status().json()["id"]
    while (seen := client.get(f"/api/backup/{job}").raise_for_status().json())["state"] == "running":
        assert 0 <= seen["done"] <= seen["total"]
        time.sleep(0.02)
    assert (seen["state"], seen["done"]) == ("finished", seen["total"])
    return client.get(f"/api/backup/{job}/file")
