# Dakika's parts in one image: `docker build -t dakika .`; deploy/compose.yaml runs them beside PostgreSQL.
FROM python:3.11-slim-bookworm AS built
WORKDIR /opt/dakika
COPY . .
# Debian's Chromium makes PDFs; PostgreSQL's programs back up. Versions are those of the release.
# hadolint ignore=DL3008
RUN apt-get update \
    && apt-get install -y --no-install-recommends bash chromium postgresql-client \
    && rm -rf /var/lib/apt/lists/*
RUN ./dakika install && rm -rf web/node_modules .dakika/logs .dakika/pycache

FROM python:3.11-slim-bookworm
# hadolint ignore=DL3008
RUN apt-get update \
    && apt-get install -y --no-install-recommends bash chromium postgresql-client \
    && rm -rf /var/lib/apt/lists/* \
    && useradd --uid 10001 --create-home --home-dir /home/dakika dakika \
    && install -d -o dakika -g dakika /state
COPY --from=built /opt/dakika /opt/dakika
WORKDIR /opt/dakika
USER 10001
# All that is written goes there; the rest may be read-only (with a /tmp in memory).
ENV DAKIKA_STATE=/state \
    DAKIKA_WEB_BIND=0.0.0.0:8000 DAKIKA_LINKS_BIND=0.0.0.0:8200 DAKIKA_EVENTS_BIND=0.0.0.0:8060
VOLUME /state
EXPOSE 8000 8200 8060
STOPSIGNAL SIGTERM
HEALTHCHECK --interval=30s --timeout=5s --start-period=60s \
    CMD ["python3", "-c", "import urllib.request as u; u.urlopen('http://127.0.0.1:8000/health', timeout=4)"]
ENTRYPOINT ["./dakika", "serve"]
