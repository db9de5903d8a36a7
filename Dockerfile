# The program in a container. It listens beyond the loopback there, and nobody is asked who they are: it starts only where it is
# told that this is meant. Publish it to this machine alone:
#
#   docker build -t cordelina .
#   docker run -e CORDELINA_OPEN=yes -p 127.0.0.1:5310:5310 -v cordelina:/data cordelina
FROM node:22-bookworm-slim AS build
WORKDIR /app
COPY . .
RUN npm ci --include=dev --no-audit --no-fund \
  && npm run --silent grammar -w core \
  && node scripts/build.mjs \
  && npm prune --omit=dev --no-audit --no-fund

FROM node:22-bookworm-slim
ENV NODE_ENV=production HOST=0.0.0.0 PORT=5310 CORDELINA_HOSTS=localhost,127.0.0.1 CORDELINA_DATA=/data
WORKDIR /app
COPY --from=build /app/package.json ./
COPY --from=build /app/node_modules ./node_modules
COPY --from=build /app/core/package.json ./core/
COPY --from=build /app/core/dist ./core/dist
COPY --from=build /app/server/package.json ./server/
COPY --from=build /app/server/dist ./server/dist
COPY --from=build /app/web/dist ./web/dist
RUN mkdir /data && chown node:node /data
VOLUME /data
USER node
EXPOSE 5310
HEALTHCHECK --interval=30s --timeout=5s --start-period=30s CMD ["node", "-e", "fetch(`http://127.0.0.1:${process.env.PORT}/api/health`).then((r) => process.exit(r.ok ? 0 : 1), () => process.exit(1))"]
CMD ["node", "server/dist/main.js"]
