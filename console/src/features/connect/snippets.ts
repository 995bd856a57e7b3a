/** What a pipeline has to say, in the ways that it may say it. */
export interface Snippet {
  key: 'shell' | 'yaml' | 'curl';
  name: string;
  about: string;
  text: string;
}

/** Ready to be pasted. The token stands in for itself where a pipeline keeps its secrets. */
export function snippets(given: {
  origin: string;
  project: string;
  stream: string;
  token: string;
}): Snippet[] {
  const { origin, project, stream, token } = given;
  const files = 'target/surefire-reports/*.xml';
  return [
    {
      key: 'shell',
      name: 'Shell',
      about: 'Any job that has Java: the client comes from here.',
      text: [
        `export VINE_URL=${origin}`,
        `export VINE_TOKEN=${token}`,
        'curl -fsSO "$VINE_URL/client/vine.jar"',
        `java -jar vine.jar push '${files}' --stream ${stream}`,
      ].join('\n'),
    },
    {
      key: 'yaml',
      name: 'YAML pipeline',
      about: 'Keep the token with the secrets of the pipeline server, as VINE_TOKEN.',
      text: [
        'test:',
        '  variables:',
        `    VINE_URL: ${origin}`,
        '    # VINE_TOKEN comes from the secrets',
        '  script:',
        '    - mvn test',
        '  after_script:',
        '    - curl -fsSO "$VINE_URL/client/vine.jar"',
        `    - java -jar vine.jar push '${files}' --stream ${stream}`,
      ].join('\n'),
    },
    {
      key: 'curl',
      name: 'curl',
      about: 'Where there is no Java.',
      text: [
        'curl -sS --fail-with-body \\',
        `  -H "Authorization: Bearer ${token}" \\`,
        `  -F stream=${stream} -F file=@reports/junit.xml \\`,
        `  ${origin}/api/v1/projects/${project}/uploads`,
      ].join('\n'),
    },
  ];
}

/** The rule that the portal has for names of streams, so that a snippet is never refused for one. */
export function isStream(name: string): boolean {
  return (
    /^[\p{L}\p{N}._-]{1,100}(?:\/[\p{L}\p{N}._-]{1,100}){0,2}$/u.test(name) &&
    !name.split('/').some((word) => word === '.' || word === '..')
  );
}
