using System.Text.Json;
using System.Text.Json.Serialization;
using Walkdown.Core.Entries;
using Walkdown.Server.Walk;

namespace Walkdown.Server.Cards;

/// <summary>
/// How the Card, the Walk and the entries stand in JSON, worked out when the server is built and not when the first page asks. Whatever
/// is not named here is worked out as it is asked for; names and conversions are Core's (<see cref="Core.CoreJson"/>) for both.
/// </summary>
[JsonSourceGenerationOptions(JsonSerializerDefaults.Web, GenerationMode = JsonSourceGenerationMode.Metadata)]
[JsonSerializable(typeof(CardAnswer))]
[JsonSerializable(typeof(CardsPage))]
[JsonSerializable(typeof(SavedAnswer))]
[JsonSerializable(typeof(PreviewAnswer))]
[JsonSerializable(typeof(PreviewRequest))]
[JsonSerializable(typeof(DefinitionsAnswer))]
[JsonSerializable(typeof(WalkAnswer))]
[JsonSerializable(typeof(WalkChanges))]
[JsonSerializable(typeof(ReadingRequest))]
[JsonSerializable(typeof(ActRequest))]
[JsonSerializable(typeof(NoteRequest))]
[JsonSerializable(typeof(FaultRequest))]
[JsonSerializable(typeof(WithdrawalRequest))]
internal sealed partial class WireJson : JsonSerializerContext;
